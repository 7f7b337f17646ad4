import { unzipSync } from 'fflate';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { config } from '../config.ts';

const isStep = (name: string) => /\.(stp|step|p21)$/i.test(name);
const baseName = (path: string) => path.split(/[\\/]/).pop() ?? path;

/** Entries and unpacked size of a zip are bounded: a bomb is refused before it is unpacked. */
const ZIP_ENTRIES = 5000;

/**
 * What was dropped, as files to read: zips unpacked, the top assembly first (the file that no other one names).
 * @throws QuarryError FILE_EMPTY, FILE_NOT_STEP, FILE_TOO_LARGE, ZIP_BROKEN, BAD_REQUEST
 */
export function orderUpload(dropped: readonly ImportedFile[]): ImportedFile[] {
  const total = dropped.reduce((s, f) => s + f.bytes.length, 0);
  if (dropped.length === 0) throw new QuarryError('BAD_REQUEST', { text: 'Choose a STEP file, several that belong together, or a zip of them.' });
  if (total > config.maxUploadBytes)
    throw new QuarryError('FILE_TOO_LARGE', { file: baseName(dropped[0]!.name), bytes: total, limitBytes: config.maxUploadBytes });
  const files = dropped.flatMap((f) => (/\.zip$/i.test(f.name) ? unzip(f) : [{ ...f, name: baseName(f.name) }]));
  for (const f of files) if (f.bytes.length === 0) throw new QuarryError('FILE_EMPTY', { file: f.name });
  const steps = files.filter((f) => isStep(f.name));
  if (steps.length === 0) throw new QuarryError('FILE_NOT_STEP', { file: files[0]?.name ?? dropped[0]!.name });
  if (steps.length === 1) return steps;
  const texts = steps.map((f) => new TextDecoder('latin1').decode(f.bytes).toLowerCase());
  const top = steps.findIndex((f, i) => !texts.some((t, j) => j !== i && t.includes(f.name.toLowerCase())));
  const first = steps[Math.max(0, top)]!;
  return [first, ...steps.filter((f) => f !== first)];
}

function unzip(f: ImportedFile): ImportedFile[] {
  if (f.bytes.length === 0) throw new QuarryError('FILE_EMPTY', { file: f.name });
  let size = 0;
  let entries = 0;
  try {
    const out = unzipSync(f.bytes, {
      filter(entry) {
        size += entry.originalSize;
        if (++entries > ZIP_ENTRIES || size > config.maxUploadBytes)
          throw new QuarryError('FILE_TOO_LARGE', { file: f.name, bytes: size, limitBytes: config.maxUploadBytes });
        return isStep(entry.name);
      },
    });
    return Object.entries(out).map(([name, bytes]) => ({ name: baseName(name), bytes }));
  } catch (cause) {
    if (cause instanceof QuarryError) throw cause;
    throw new QuarryError('ZIP_BROKEN', { file: f.name }, { cause });
  }
}
