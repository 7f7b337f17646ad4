import { api } from '$lib/api.server';
import { formatByName, removeFormat } from '$server';

/** The whole format, to be changed and kept. */
export const GET = api(async ({ params }) => Response.json(await formatByName(params['name']!)));

export const DELETE = api(async ({ params }) => {
  await removeFormat(params['name']!);
  return new Response(null, { status: 204 });
});
