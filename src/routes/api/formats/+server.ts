import { api, json } from '$lib/api.server';
import { check, formatBody, keepFormat, listFormats } from '$server';

/** Sheet formats that come with the application, and those that were kept. */
export const GET = api(async () => Response.json(await listFormats()));

/** Keeps a format; under a name that is there it becomes the next version. */
export const POST = api(async (event) => Response.json(await keepFormat(check(formatBody, await json(event))), { status: 201 }));
