import { api } from '$lib/api.server';
import { apiDescription } from '$server';

export const GET = api(async () => Response.json(apiDescription()));
