import { api, jobId, json } from '$lib/api.server';
import { appendEdit, check, editRequest, editsSince, sinceVersion, undoState } from '$server';

export const GET = api(async (event) => {
  const id = jobId(event);
  const changes = await editsSince(id, check(sinceVersion, event.url.searchParams.get('since') ?? '0'));
  return Response.json({ changes, ...(await undoState(id)) });
});

export const POST = api(async (event) => {
  const { version, label, steps, token } = check(editRequest, await json(event));
  return Response.json(await appendEdit(jobId(event), version, label, steps, token));
});
