import { api, bytes, jobId } from '$lib/api.server';
import { exportFile } from '$server';

export const GET = api(async (event) => {
  const query = event.url.searchParams;
  const file = await exportFile(jobId(event), event.params.name ?? '', {
    spread: query.get('spread') ?? undefined,
    list: query.get('list') ?? undefined,
    part: query.get('part') ?? undefined,
  });
  return new Response(bytes(file.data), {
    headers: { 'content-type': file.type, 'content-disposition': `attachment; filename="${file.name}"`, 'cache-control': 'no-store' },
  });
});
