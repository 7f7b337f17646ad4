import { check, computeExploded, explodeRequest } from '$server';
import { api, jobId, json, streamed } from '$lib/api.server';

/** Computes something of an exploded view: `{progress}` and `{partial}` plans while it goes on, then the answer. */
export const POST = api(async (event) => {
  const id = jobId(event);
  const request = check(explodeRequest, await json(event));
  return streamed(event, (signal, say) => computeExploded(id, request, signal, say));
});
