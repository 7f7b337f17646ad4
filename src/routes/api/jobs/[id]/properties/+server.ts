import { api, jobId } from '$lib/api.server';
import { previewProperties } from '$server';
import { QuarryError } from '$core/base/errors';

/** What a properties file would change; the page takes it over as an edit. */
export const POST = api(async (event) => {
  const form = await event.request.formData();
  const file = form.get('file');
  if (!(file instanceof File)) throw new QuarryError('BAD_REQUEST', { text: 'Choose a CSV or XLSX file.' });
  return Response.json(await previewProperties(jobId(event), { name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) }));
});
