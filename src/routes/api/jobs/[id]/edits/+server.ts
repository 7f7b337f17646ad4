import { api, jobId, json } from '$lib/api.server';
import { appendEdit, check, editRequest, editsSince } from '$server';

export const GET = api(async (event) => Response.json(await editsSince(jobId(event), Number(event.url.searchParams.get('since') ?? 0))));

export const POST = api(async (event) => {
  const { version, label, steps } = check(editRequest, await json(event));
  return Response.json(await appendEdit(jobId(event), version, label, steps));
});
