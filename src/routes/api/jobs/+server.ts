import { api } from '$lib/api.server';
import { check, config, createJob, listJobs, orderUpload, unitQuestion, uploadOptions } from '$server';
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
  const field = (name: string) => form.get(name) ?? undefined;
  const { standard, sheet, unitMm, up } = check(uploadOptions, {
    standard: field('standard'),
    sheet: field('sheet'),
    unitMm: field('unitMm'),
    up: field('up'),
  });
  const question = unitMm === undefined ? await unitQuestion(files) : undefined;
  if (question) return Response.json({ question });
  const id = await createJob({
    title: files[0]!.name.replace(/\.\w+$/, ''),
    files,
    standard,
    sheet,
    choices: unitMm === undefined ? undefined : { unitMm, up },
  });
  return Response.json({ id }, { status: 201 });
});
