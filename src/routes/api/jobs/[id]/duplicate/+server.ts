import { api, jobId } from '$lib/api.server';
import { duplicateJob } from '$server';

/** The drawing once more, as a job of its own. */
export const POST = api(async (event) => Response.json({ id: await duplicateJob(jobId(event)) }, { status: 201 }));
