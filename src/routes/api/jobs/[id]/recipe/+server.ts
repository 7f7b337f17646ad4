import { api, jobId, json, streamed } from '$lib/api.server';
import { applyRecipeTo, check, recipePreview, recipeQuery, recipeRequest } from '$server';

/** Which sheets `recipe` would make, before anything is made. */
export const GET = api(async (event) => {
  const { recipe } = check(recipeQuery, Object.fromEntries(event.url.searchParams));
  return Response.json(await recipePreview(jobId(event), recipe));
});

/** Makes the sheets: `{what}` while they are drawn, then what became of the slots. */
export const POST = api(async (event) => {
  const id = jobId(event);
  const request = check(recipeRequest, await json(event));
  return streamed(event, (signal, say) => applyRecipeTo(id, request, signal, (what) => say({ what })));
});
