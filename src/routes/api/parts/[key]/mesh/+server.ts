import { api, bytes } from '$lib/api.server';
import { packedGeometry } from '$server';

export const GET = api(
  async (event) =>
    new Response(bytes(await packedGeometry(event.params.key ?? '')), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'max-age=31536000, immutable' },
    }),
);
