import { api, bytes, jobId } from '$lib/api.server';
import { check, exportFile, fileQuery } from '$server';

export const GET = api(async (event) => {
  const file = await exportFile(jobId(event), event.params.name ?? '', check(fileQuery, Object.fromEntries(event.url.searchParams)));
  return new Response(bytes(file.data), {
    headers: { 'content-type': file.type, 'content-disposition': `attachment; filename="${file.name}"`, 'cache-control': 'no-store' },
  });
});
