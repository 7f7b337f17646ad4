import { api, jobId, json } from '$lib/api.server';
import { check, redo, versionRequest } from '$server';

export const POST = api(async (event) => Response.json(await redo(jobId(event), check(versionRequest, await json(event)).version)));
