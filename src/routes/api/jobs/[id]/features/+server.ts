import { api, compressedBytes, jobId } from '$lib/api.server';
import { jobFeatures } from '$server';
import { pack } from '$core/base/pack';

/** What is measured on the parts of a job: packed, by geometry key. */
export const GET = api(async (event) => compressedBytes(event, pack('NQfs', 1, Object.fromEntries(await jobFeatures(jobId(event))))));
