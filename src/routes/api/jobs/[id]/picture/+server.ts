import { api, jobId } from '$lib/api.server';
import { check, componentList, componentsPicture, jobPicture } from '$server';

/** The whole, or with `of` some of its components as they stand together. */
export const GET = api(async (event) => {
  const of = event.url.searchParams.get('of');
  const [svg, cache] =
    of === null ? [await jobPicture(jobId(event)), 'no-cache'] : [await componentsPicture(jobId(event), check(componentList, of)), 'max-age=86400'];
  return new Response(svg, { headers: { 'content-type': 'image/svg+xml', 'cache-control': cache } });
});
