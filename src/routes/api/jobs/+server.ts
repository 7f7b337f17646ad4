import { api } from '$lib/api.server';
import { readUpload } from '$lib/upload.server';
import { check, createJob, listJobs, unitQuestion, uploadOptions } from '$server';

export const GET = api(async () => Response.json(await listJobs()));

export const POST = api(async ({ request }) => {
  const { files, field } = await readUpload(request);
  const { standard, sheet, unitMm, up } = check(uploadOptions, {
    standard: field('standard'),
    sheet: field('sheet'),
    unitMm: field('unitMm'),
    up: field('up'),
  });
  const question = unitMm === undefined ? await unitQuestion(files) : undefined;
  if (question) return Response.json({ question });
  const choices = unitMm === undefined ? undefined : { unitMm, up };
  const id = await createJob({ title: files[0]!.name.replace(/\.\w+$/, ''), files, standard, sheet, choices });
  return Response.json({ id }, { status: 201 });
});
