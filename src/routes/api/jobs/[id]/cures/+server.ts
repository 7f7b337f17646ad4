import { check, curesRequest, findCures } from '$server';
import { api, jobId, json, streamed } from '$lib/api.server';

/** Ways to show an item: `{progress}` while they are looked for, then the list. */
export const POST = api(async (event) => {
  const id = jobId(event);
  const { part } = check(curesRequest, await json(event));
  return streamed(event, (signal, say) => findCures(id, part, signal, (progress) => say({ progress })));
});
