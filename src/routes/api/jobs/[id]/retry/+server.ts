import { api, jobId } from '$lib/api.server';
import { retryJob } from '$server';

export const POST = api(async (event) => {
  await retryJob(jobId(event));
  return new Response(null, { status: 204 });
});
