import { api } from '$lib/api.server';
import { partPicture } from '$server';

export const GET = api(
  async (event) =>
    new Response(await partPicture(event.params.key ?? ''), { headers: { 'content-type': 'image/svg+xml', 'cache-control': 'max-age=31536000, immutable' } }),
);
