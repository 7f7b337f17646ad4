import { api, jobId, json } from '$lib/api.server';
import { check, deleteJob, jobSummary, renameJob, renameRequest } from '$server';

export const GET = api(async (event) => Response.json(await jobSummary(jobId(event))));

export const DELETE = api(async (event) => {
  await deleteJob(jobId(event));
  return new Response(null, { status: 204 });
});

/** Another name. */
export const PATCH = api(async (event) => {
  await renameJob(jobId(event), check(renameRequest, await json(event)).title);
  return new Response(null, { status: 204 });
});
