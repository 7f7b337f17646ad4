import { api, jobId, json } from '$lib/api.server';
import { check, redo, versionRequest } from '$server';

export const POST = api(async (event) => {
  const { version, token } = check(versionRequest, await json(event));
  return Response.json(await redo(jobId(event), version, token));
});
