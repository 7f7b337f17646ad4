import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { createHash } from 'node:crypto';
import { z } from 'zod';
import { QuarryError } from '../core/base/errors.ts';

/** What the contents of a package say of themselves: `manifest.json`. */
export const manifestSchema = z.object({
  format: z.literal('quarry-package'),
  version: z.literal(1),
  title: z.string(),
  number: z.string(),
  revision: z.string(),
  date: z.string(),
  files: z.array(z.object({ name: z.string(), bytes: z.int().min(0), sha256: z.string().regex(/^[0-9a-f]{64}$/) })),
});
export type Manifest = z.infer<typeof manifestSchema>;

export interface PackageFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** End of central directory of a zip (APPNOTE 4.3.16): 22 bytes, the last two of which count those of the comment. */
const END_BYTES = 22;
const END_SIGNATURE = 0x06054b50;
const SEAL = 'sha256:';

/**
 * Files with a manifest of their hashes as a zip. Its comment is the hash of everything before it: not a byte can be another.
 * The same files give the same bytes.
 */
export function writePackage(files: readonly PackageFile[], about: Omit<Manifest, 'format' | 'version' | 'files'>): Uint8Array {
  const manifest: Manifest = {
    format: 'quarry-package',
    version: 1,
    ...about,
    files: files.map((f) => ({ name: f.name, bytes: f.bytes.length, sha256: sha256(f.bytes) })),
  };
  // What is compressed already gains nothing.
  const level = (name: string) => (/\.(pdf|png|glb|xlsx|zip)$/.test(name) ? 0 : 6);
  const entries: Zippable = {};
  for (const f of files) entries[f.name] = [f.bytes, { level: level(f.name), mtime: EPOCH }];
  entries['manifest.json'] = [strToU8(`${JSON.stringify(manifest, null, 2)}\n`), { level: 6, mtime: EPOCH }];
  return sealed(zipSync(entries));
}

/** The first moment that a zip can tell. */
const EPOCH = new Date(1980, 0, 1);

function sealed(zip: Uint8Array): Uint8Array {
  const out = new Uint8Array(zip.length + SEAL.length + 64);
  out.set(zip);
  const view = new DataView(out.buffer);
  view.setUint16(zip.length - 2, SEAL.length + 64, true);
  out.set(strToU8(SEAL + sha256(out.subarray(0, zip.length))), zip.length);
  return out;
}

export interface Verified {
  readonly ok: true;
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly date: string;
  /** Of the package itself. */
  readonly sha256: string;
  readonly files: readonly { readonly name: string; readonly bytes: number; readonly sha256: string }[];
}

/**
 * Is a package exactly what it was when it was made?
 * @throws QuarryError PACKAGE_CHANGED with the names of what differs, ZIP_BROKEN for what is no package
 */
export function verifyPackage(bytes: Uint8Array, file: string): Verified {
  const length = bytes.length - SEAL.length - 64;
  const seal = length >= END_BYTES ? strFromU8(bytes.subarray(length), true) : '';
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (length < END_BYTES || (view.getUint32(length - END_BYTES, true) !== END_SIGNATURE && !seal.startsWith(SEAL)))
    throw new QuarryError('ZIP_BROKEN', { file });
  const untouched = seal === SEAL + sha256(bytes.subarray(0, length));
  const found = contentsOf(bytes, file, untouched);
  const wrong = found.manifest.files.filter((f) => !found.entries[f.name] || sha256(found.entries[f.name]!) !== f.sha256).map((f) => f.name);
  const strange = Object.keys(found.entries).filter((name) => name !== 'manifest.json' && !found.manifest.files.some((f) => f.name === name));
  if (!untouched || wrong.length || strange.length) throw new QuarryError('PACKAGE_CHANGED', { file, names: [...wrong, ...strange] });
  const { title, number, revision, date, files } = found.manifest;
  return { ok: true, title, number, revision, date, sha256: sha256(bytes), files };
}

/** The files of a package, as far as they can be read at all. */
function contentsOf(bytes: Uint8Array, file: string, untouched: boolean): { entries: Record<string, Uint8Array>; manifest: Manifest } {
  try {
    const entries = unzipSync(bytes);
    const text = entries['manifest.json'];
    return { entries, manifest: manifestSchema.parse(JSON.parse(text ? strFromU8(text) : '{}')) };
  } catch (cause) {
    // A zip that is whole is no package of ours; one that is not was changed.
    throw untouched ? new QuarryError('ZIP_BROKEN', { file }, { cause }) : new QuarryError('PACKAGE_CHANGED', { file, names: [] }, { cause });
  }
}
