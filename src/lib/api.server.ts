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
