import { historyOf } from '$server';
import { api, jobId } from '$lib/api.server';

/** The latest edits, newest first. */
export const GET = api(async (event) => Response.json(await historyOf(jobId(event))));
