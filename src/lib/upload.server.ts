import { config, orderUpload } from '$server';
import { QuarryError } from '$core/base/errors';
import type { ImportedFile } from '$core/assembly/importing';

export interface Upload {
  readonly files: readonly ImportedFile[];
  /** A field of the form, undefined when it is not there. */
  field(name: string): FormDataEntryValue | undefined;
}

/** The files of a form, zips unpacked, tops first. @throws QuarryError FILE_TOO_LARGE, BAD_REQUEST and those of `orderUpload` */
export async function readUpload(request: Request): Promise<Upload> {
  const announced = Number(request.headers.get('content-length') ?? 0);
  if (announced > config.maxUploadBytes + 1_000_000)
    throw new QuarryError('FILE_TOO_LARGE', { file: 'The upload', bytes: announced, limitBytes: config.maxUploadBytes });
  const form = await request.formData().catch((cause: unknown) => {
    throw new QuarryError('BAD_REQUEST', { text: 'The upload broke off. Try it again.' }, { cause });
  });
  const dropped = await Promise.all(
    form
      .getAll('file')
      .filter((f): f is File => f instanceof File)
      .map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })),
  );
  return { files: orderUpload(dropped), field: (name) => form.get(name) ?? undefined };
}
