import { api, jobId, json } from '$lib/api.server';
import { check, keepDrawingAsRecipe, keepRequest } from '$server';

/** Keeps the sheets of this drawing as a recipe. */
export const POST = api(async (event) => {
  const { name, words } = check(keepRequest, await json(event));
  return Response.json(await keepDrawingAsRecipe(jobId(event), name, words), { status: 201 });
});
