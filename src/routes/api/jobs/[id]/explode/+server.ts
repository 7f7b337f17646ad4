import { errorResponse, check, computeExploded, explodeRequest, log } from '$server';
import { api, jobId, json } from '$lib/api.server';
import { QuarryError } from '$core/base/errors';

/**
 * Computes something of an exploded view. The answer is a line of JSON per message: `{progress}` and `{partial}` plans while it goes on, then
 * `{result}` or `{error}`. Whoever hangs up cancels it.
 */
export const POST = api(async (event) => {
  const id = jobId(event);
  const request = check(explodeRequest, await json(event));
  const stop = new AbortController();
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const say = (message: unknown) => {
        if (!stop.signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(message)}\n`));
      };
      computeExploded(id, request, stop.signal, say)
        .then(
          (result) => say({ result }),
          async (e: unknown) => {
            if (e instanceof QuarryError) say(await errorResponse(e).json());
            else {
              const requestId = event.locals.requestId;
              log.error({ err: e, requestId, job: id }, 'an exploded view could not be computed');
              say(await errorResponse(new QuarryError('INTERNAL', { id: requestId })).json());
            }
          },
        )
        .then(() => {
          if (!stop.signal.aborted) controller.close();
        })
        .catch((err: unknown) => log.warn({ err }, 'the answer did not get through'));
    },
    cancel() {
      stop.abort();
    },
  });
  return new Response(body, { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } });
});
