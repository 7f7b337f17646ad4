import { api, jobId } from '$lib/api.server';
import { jobPicture } from '$server';

export const GET = api(
  async (event) => new Response(await jobPicture(jobId(event)), { headers: { 'content-type': 'image/svg+xml', 'cache-control': 'no-cache' } }),
);
