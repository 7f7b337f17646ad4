import { api } from '$lib/api.server';
import { check, config, createJob, listJobs, orderUpload, uploadOptions } from '$server';
import { QuarryError } from '$core/base/errors';

export const GET = api(async () => Response.json(await listJobs()));

export const POST = api(async ({ request }) => {
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
  const files = orderUpload(dropped);
  const options = check(uploadOptions, { standard: form.get('standard') ?? undefined, sheet: form.get('sheet') ?? undefined });
  const id = await createJob({ title: files[0]!.name.replace(/\.\w+$/, ''), files, ...options });
  return Response.json({ id }, { status: 201 });
});
