import { api } from '$lib/api.server';
import { readUpload } from '$lib/upload.server';
import { check, createJob, formatByName, jobQuery, listJobs, recipeByName, unitQuestion, uploadOptions } from '$server';

/** Jobs: `q` words of the title, `sort` changed, title or size, `offset` and `limit`; how many there are in all is in `x-total`. */
export const GET = api(async ({ url }) => {
  const { jobs, total } = await listJobs(check(jobQuery, Object.fromEntries(url.searchParams)));
  return Response.json(jobs, { headers: { 'x-total': String(total) } });
});

export const POST = api(async ({ request }) => {
  const { files, field } = await readUpload(request);
  const { standard, sheet, recipe, format, unitMm, up } = check(uploadOptions, {
    standard: field('standard'),
    sheet: field('sheet'),
    recipe: field('recipe'),
    format: field('format'),
    unitMm: field('unitMm'),
    up: field('up'),
  });
  const question = unitMm === undefined ? await unitQuestion(files) : undefined;
  if (question) return Response.json({ question });
  const choices = unitMm === undefined ? undefined : { unitMm, up };
  const id = await createJob({
    title: files[0]!.name.replace(/\.\w+$/, ''),
    files,
    standard,
    sheet,
    choices,
    recipe: recipe === null ? null : await recipeByName(recipe),
    format: format === null ? null : await formatByName(format),
  });
  return Response.json({ id }, { status: 201 });
});
