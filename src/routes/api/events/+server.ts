import { eventStream } from '$lib/sse.server';

export const GET = () => eventStream(undefined);
