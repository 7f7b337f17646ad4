import { api } from '$lib/api.server';
import { formatByName, removeFormat } from '$server';

/** The whole format, to be changed and kept; its version stands in the header. */
export const GET = api(async ({ params }) => {
  const { body, version } = await formatByName(params['name']!);
  return Response.json(body, { headers: { 'x-version': String(version) } });
});

export const DELETE = api(async ({ params }) => {
  await removeFormat(params['name']!);
  return new Response(null, { status: 204 });
});
