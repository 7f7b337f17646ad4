import { api, jobId, json } from '$lib/api.server';
import { check, undo, versionRequest } from '$server';

export const POST = api(async (event) => {
  const { version, token } = check(versionRequest, await json(event));
  return Response.json(await undo(jobId(event), version, token));
});
