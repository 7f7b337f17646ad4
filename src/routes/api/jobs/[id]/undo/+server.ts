import { api, jobId, json } from '$lib/api.server';
import { check, undo, versionRequest } from '$server';

export const POST = api(async (event) => Response.json(await undo(jobId(event), check(versionRequest, await json(event)).version)));
