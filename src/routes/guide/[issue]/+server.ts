import { guidePage } from '$server';
import { api } from '$lib/api.server';
import { QuarryError } from '$core/base/errors';

/** The build guide of an issue, for a tablet at the bench: one page that works on when the connection is lost. */
export const GET = api(async (event) => {
  const id = event.params.issue ?? '';
  if (!/^[0-9a-f]{8}-[0-9a-f-]{27}$/.test(id)) throw new QuarryError('NOT_FOUND', { what: 'The guide' });
  return new Response(await guidePage(id), { headers: { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'private, max-age=86400' } });
});
