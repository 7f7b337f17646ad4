import { subscribe, type LiveEvent } from '$server';

/** Server-sent events for one job, or for all; a comment every 20 s keeps the line open. */
export function eventStream(jobId: string | undefined): Response {
  let end = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const encode = new TextEncoder();
      const write = (text: string) => {
        try {
          controller.enqueue(encode.encode(text));
        } catch {
          // The reader has gone: cancel() follows, or has run.
          end();
        }
      };
      const off = subscribe(jobId, (e: LiveEvent) => write(`data: ${JSON.stringify(e)}\n\n`));
      const timer = setInterval(() => write(': still here\n\n'), 20_000);
      end = () => {
        clearInterval(timer);
        off();
      };
      write(': hello\n\n');
    },
    cancel: () => end(),
  });
  return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' } });
}
