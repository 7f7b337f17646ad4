import { progressOf, remarksOf } from '$server';
import { api, jobId } from '$lib/api.server';

/** What the bench said of this job, and how far each unit is. */
export const GET = api(async (event) => {
  const id = jobId(event);
  return Response.json({ remarks: await remarksOf(id), units: await progressOf(id) });
});
