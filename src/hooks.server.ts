import { randomUUID } from 'node:crypto';
import { building } from '$app/environment';
import { closeDatabase, config, errorResponse, log, logWhatNobodyCaught, startWork, stopListening, type WorkHandle } from '$server';
import type { Handle, HandleServerError, ServerInit } from '@sveltejs/kit';
import { QuarryError } from '$core/base/errors';

let work: WorkHandle | undefined;

export const init: ServerInit = async () => {
  if (building) return;
  logWhatNobodyCaught();
  if (config.works) work = await startWork();
  // adapter-node closes its server on SIGINT and SIGTERM, then says so.
  process.once('sveltekit:shutdown', async () => {
    await work?.stop();
    await stopListening();
    await closeDatabase();
  });
};

const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'permissions-policy': 'camera=(), microphone=(), geolocation=()',
};

export const handle: Handle = async ({ event, resolve }) => {
  const requestId = randomUUID();
  event.locals.requestId = requestId;
  const start = performance.now();
  const { method } = event.request;
  const response = sameOrigin(event.request) ? await resolve(event) : errorResponse(new QuarryError('NOT_SAME_ORIGIN', {}));
  for (const [k, v] of Object.entries(HEADERS)) response.headers.set(k, v);
  response.headers.set('x-request-id', requestId);
  // The drawing is on its way while the page's script is read.
  const stage = /^\/jobs\/([0-9a-f-]{36})\/(sheets|model|explode)$/.exec(event.url.pathname);
  if (stage && response.ok) response.headers.append('link', `</api/jobs/${stage[1]}/drawing>; rel=preload; as=fetch; crossorigin`);
  if (event.url.pathname.startsWith('/api/') || response.status >= 400)
    log.info({ requestId, method, path: event.url.pathname, status: response.status, ms: Math.round(performance.now() - start) }, 'request');
  return response;
};

/** A changing request must come from our own pages: the browser says where it comes from. */
function sameOrigin(request: Request): boolean {
  if (request.method === 'GET' || request.method === 'HEAD') return true;
  const origin = request.headers.get('origin');
  const host = request.headers.get('host');
  if (!origin) return request.headers.get('sec-fetch-site') !== 'cross-site';
  return URL.canParse(origin) && new URL(origin).host === host;
}

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (error instanceof QuarryError) return { message: error.message, code: error.code };
  if (status === 404) return { message: 'There is nothing at this address.' };
  const id = event.locals.requestId;
  log.error({ err: error, requestId: id, path: event.url.pathname }, 'request broke');
  return { message: status === 500 ? new QuarryError('INTERNAL', { id }).message : message, code: 'INTERNAL' };
};
