import { check, compareMoments, compareRequest } from '$server';
import { api, compressed, jobId } from '$lib/api.server';

/** What two moments of a drawing differ in: `from` and `to` are `now`, an issue, or `v` and a version. */
export const GET = api(async (event) => {
  const { from, to } = check(compareRequest, Object.fromEntries(event.url.searchParams));
  return compressed(event, await compareMoments(jobId(event), from, to));
});
