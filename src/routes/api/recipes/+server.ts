import { api, json } from '$lib/api.server';
import { check, keepRecipe, listRecipes, recipeBody } from '$server';

/** Recipes that come with the application, and those that were kept. */
export const GET = api(async () => Response.json(await listRecipes()));

/** Keeps a recipe; under a name that is there it becomes the next version. */
export const POST = api(async (event) => Response.json(await keepRecipe(check(recipeBody, await json(event))), { status: 201 }));
