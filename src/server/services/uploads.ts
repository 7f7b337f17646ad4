import { unzipSync } from 'fflate';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { fileGroups, isMeshFile, isStep } from '../../formats/readers/file-groups.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { config } from '../config.ts';

const baseName = (path: string) => path.split(/[\\/]/).pop() ?? path;
/** Buffers beside a glTF text. */
const isBeside = (name: string) => /\.bin$/i.test(name);
const isReadable = (name: string) => isStep(name) || isMeshFile(name);

/** Entries and unpacked size of a zip are bounded: a bomb is refused before it is unpacked. */
const ZIP_ENTRIES = 5000;

/**
 * What was dropped, as files to read: zips unpacked, tops first (see `fileGroups`), what nothing can read left out.
 * @throws QuarryError FILE_EMPTY, FILE_NOT_STEP, FILE_UNKNOWN, FILE_TOO_LARGE, ZIP_BROKEN, BAD_REQUEST
 */
export function orderUpload(dropped: readonly ImportedFile[]): ImportedFile[] {
  const total = dropped.reduce((s, f) => s + f.bytes.length, 0);
  if (dropped.length === 0) throw new QuarryError('BAD_REQUEST', { text: 'Choose an assembly file, several that belong together, or a zip of them.' });
  if (total > config.maxUploadBytes)
    throw new QuarryError('FILE_TOO_LARGE', { file: baseName(dropped[0]!.name), bytes: total, limitBytes: config.maxUploadBytes });
  const files = dropped.flatMap((f) => (/\.zip$/i.test(f.name) ? unzip(f) : [{ ...f, name: baseName(f.name) }]));
  for (const f of files) if (f.bytes.length === 0) throw new QuarryError('FILE_EMPTY', { file: f.name });
  const groups = fileGroups(files.filter((f) => isReadable(f.name) || isBeside(f.name)));
  if (groups.length === 0) throw new QuarryError('FILE_UNKNOWN', { file: files[0]?.name ?? baseName(dropped[0]!.name) });
  return [...new Set([...groups.map((g) => g.top), ...groups.flatMap((g) => g.beside)])];
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
        return isReadable(entry.name) || isBeside(entry.name);
      },
    });
    return Object.entries(out).map(([name, bytes]) => ({ name: baseName(name), bytes }));
  } catch (cause) {
    if (cause instanceof QuarryError) throw cause;
    throw new QuarryError('ZIP_BROKEN', { file: f.name }, { cause });
  }
}
