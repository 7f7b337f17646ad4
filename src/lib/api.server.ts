import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { errorResponse, log } from '$server';
import { QuarryError } from '$core/base/errors';
import type { RequestEvent } from '@sveltejs/kit';

/** Wraps a route: what it throws becomes an answer with a code and a sentence. */
export function api<E extends RequestEvent>(work: (event: E) => Promise<Response>): (event: E) => Promise<Response> {
  return async (event) => {
    try {
      return await work(event);
    } catch (e) {
      if (e instanceof QuarryError) return errorResponse(e);
      const id = event.locals.requestId;
      log.error({ err: e, requestId: id, path: event.url.pathname }, 'request broke');
      return errorResponse(new QuarryError('INTERNAL', { id }));
    }
  };
}

/** The address that whoever asks reached this server by: it speaks plain HTTP, unless something in front of it says otherwise. */
export function addressOf({ request, url }: Pick<RequestEvent, 'request' | 'url'>): string {
  const protocol = request.headers.get('x-forwarded-proto') === 'https' ? 'https' : 'http';
  return `${protocol}://${request.headers.get('x-forwarded-host') ?? request.headers.get('host') ?? url.host}`;
}

/** @throws QuarryError NOT_FOUND for an id that is none */
export function jobId(event: { params: { id?: string | undefined } }): string {
  const id = event.params.id ?? '';
  if (!/^[0-9a-f]{8}-[0-9a-f-]{27}$/.test(id)) throw new QuarryError('NOT_FOUND', { what: 'The job' });
  return id;
}

/** @throws QuarryError BAD_REQUEST when the body is not JSON */
export async function json(event: RequestEvent): Promise<unknown> {
  try {
    return await event.request.json();
  } catch (cause) {
    throw new QuarryError('BAD_REQUEST', { text: 'The request body is not JSON.' }, { cause });
  }
}

/**
 * Long work as a line of JSON per message: whatever it tells while it goes on, then `{result}` or `{error}`. Whoever hangs up
 * cancels it.
 */
export function streamed(event: RequestEvent, work: (signal: AbortSignal, say: (message: unknown) => void) => Promise<unknown>): Response {
  const stop = new AbortController();
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const say = (message: unknown) => {
        if (!stop.signal.aborted) controller.enqueue(encoder.encode(`${JSON.stringify(message)}\n`));
      };
      work(stop.signal, say)
        .then(
          (result) => say({ result }),
          async (e: unknown) => {
            if (e instanceof QuarryError) say(await errorResponse(e).json());
            else {
              const id = event.locals.requestId;
              log.error({ err: e, requestId: id, path: event.url.pathname }, 'long work broke');
              say(await errorResponse(new QuarryError('INTERNAL', { id })).json());
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
}

const gzipped = promisify(gzip);

/** A large answer as JSON, compressed (on another thread) where the browser takes it. */
export const compressed = (event: RequestEvent, data: unknown): Promise<Response> => zipped(event, JSON.stringify(data), 'application/json');

/** … and as bytes. */
export const compressedBytes = (event: RequestEvent, data: Uint8Array): Promise<Response> => zipped(event, data, 'application/octet-stream');

async function zipped(event: RequestEvent, data: string | Uint8Array, type: string): Promise<Response> {
  const headers = { 'content-type': type, 'cache-control': 'no-cache', vary: 'accept-encoding' };
  if (!/\bgzip\b/.test(event.request.headers.get('accept-encoding') ?? '')) return new Response(typeof data === 'string' ? data : bytes(data), { headers });
  return new Response(bytes(await gzipped(data, { level: 1 })), { headers: { ...headers, 'content-encoding': 'gzip' } });
}

/** Bytes as a response body: a copy, as a buffer may be a piece of a larger one. */
export const bytes = (data: Uint8Array): ArrayBuffer => new Uint8Array(data).buffer;
