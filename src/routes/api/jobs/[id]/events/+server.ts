import { api, jobId } from '$lib/api.server';
import { eventStream } from '$lib/sse.server';

export const GET = api(async (event) => eventStream(jobId(event)));
