import { api, bytes, jobId } from '$lib/api.server';
import { requestView } from '$server';

export const GET = api(async (event) => {
  const { key, data } = await requestView(jobId(event), event.params.view ?? '');
  const etag = `"${key}"`;
  if (!data) return Response.json({ key }, { status: 202 });
  if (event.request.headers.get('if-none-match') === etag) return new Response(null, { status: 304 });
  return new Response(bytes(data), { headers: { 'content-type': 'application/octet-stream', 'content-encoding': 'gzip', etag, 'cache-control': 'no-cache' } });
});
