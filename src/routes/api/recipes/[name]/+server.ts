import { api } from '$lib/api.server';
import { recipeByName, removeRecipe } from '$server';

/** The whole recipe, to be changed and kept. */
export const GET = api(async ({ params }) => Response.json(await recipeByName(params['name']!)));

export const DELETE = api(async ({ params }) => {
  await removeRecipe(params['name']!);
  return new Response(null, { status: 204 });
});
