import { api, jobId, json } from '$lib/api.server';
import { check, decisionsRequest, leaveModel, modelChanges, takeModel, takeRequest } from '$server';

/** What taking it over would change, with the drafter's decisions so far. */
export const POST = api(async (event) => {
  const { decisions } = check(decisionsRequest, await json(event));
  return Response.json(await modelChanges(jobId(event), event.params.model ?? '', decisions));
});

export const PUT = api(async (event) => {
  const { version, ...choices } = check(takeRequest, await json(event));
  return Response.json(await takeModel(jobId(event), event.params.model ?? '', version, choices));
});

export const DELETE = api(async (event) => {
  await leaveModel(jobId(event), event.params.model ?? '');
  return new Response(null, { status: 204 });
});
