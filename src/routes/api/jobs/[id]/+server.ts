import { api, jobId } from '$lib/api.server';
import { deleteJob, jobSummary } from '$server';

export const GET = api(async (event) => Response.json(await jobSummary(jobId(event))));

export const DELETE = api(async (event) => {
  await deleteJob(jobId(event));
  return new Response(null, { status: 204 });
});
