import { api, bytes, jobId } from '$lib/api.server';
import { seenAreas } from '$server';
import { pack } from '$core/base/pack';

/** What the views show of each component, for the ledger: packed, by view id. */
export const GET = api(async (event) => {
  const seen = await seenAreas(jobId(event));
  return new Response(bytes(pack('NQsn', 1, Object.fromEntries(seen))), { headers: { 'content-type': 'application/octet-stream' } });
});
