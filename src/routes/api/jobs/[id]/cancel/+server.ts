import { api, jobId } from '$lib/api.server';
import { cancelJob } from '$server';

export const POST = api(async (event) => {
  await cancelJob(jobId(event));
  return new Response(null, { status: 204 });
});
