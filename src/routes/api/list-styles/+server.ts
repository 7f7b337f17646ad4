import { api, json } from '$lib/api.server';
import { check, keepListStyle, listStyleBody, listStyles } from '$server';

/** Layouts of parts lists that come with the application, and those that were kept. */
export const GET = api(async () => Response.json(await listStyles()));

/** Keeps a layout; under a name that is there it becomes the next version. */
export const POST = api(async (event) => Response.json(await keepListStyle(check(listStyleBody, await json(event))), { status: 201 }));
