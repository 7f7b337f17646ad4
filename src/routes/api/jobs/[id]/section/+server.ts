import { api, jobId, json } from '$lib/api.server';
import { check, proposeSection, sectionRequest } from '$server';

export const POST = api(async (event) => Response.json(await proposeSection(jobId(event), check(sectionRequest, await json(event)))));
