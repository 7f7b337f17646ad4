import { api } from '$lib/api.server';
import { check, keyList, partPictures } from '$server';

/** Small pictures of parts, as many as are in sight, by key. */
export const GET = api(async (event) =>
  Response.json(await partPictures(check(keyList, event.url.searchParams.get('of') ?? '')), { headers: { 'cache-control': 'max-age=3600' } }),
);
