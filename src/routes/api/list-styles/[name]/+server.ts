import { api } from '$lib/api.server';
import { removeListStyle } from '$server';

export const DELETE = api(async ({ params }) => {
  await removeListStyle(params['name']!);
  return new Response(null, { status: 204 });
});
