import { guideNow } from '$server';
import { api, jobId } from '$lib/api.server';

/** What the build guide says as the drawing stands. */
export const GET = api(async (event) => Response.json(await guideNow(jobId(event))));
