import { afterEach, describe, expect, test, vi } from 'vitest';
import { call } from './api';

const answers = (make: () => Response | Promise<Response>) => {
  const fetched = vi.fn<typeof fetch>(async () => make());
  vi.stubGlobal('fetch', fetched);
  return fetched;
};
afterEach(() => vi.unstubAllGlobals());

describe('calling the server', () => {
  test('asks plainly, sends JSON, and gives what comes back', async () => {
    const fetched = answers(() => Response.json({ a: 1 }));
    expect(await call('/api/jobs')).toEqual({ a: 1 });
    expect(fetched.mock.lastCall).toEqual(['/api/jobs', { method: 'GET', keepalive: false }]);
    await call('/api/jobs/1/edits', { method: 'POST', body: { x: 'ü' } });
    expect(fetched.mock.lastCall).toEqual([
      '/api/jobs/1/edits',
      { method: 'POST', body: '{"x":"ü"}', headers: { 'content-type': 'application/json' }, keepalive: true },
    ]);
  });
  // The fetch standard lets 64 KiB outlive their page: larger ones must not ask for it, or they are refused.
  test('a large change does not ask to outlive the page', async () => {
    const fetched = answers(() => new Response(null, { status: 204 }));
    expect(await call('/x', { method: 'PUT', body: 'y'.repeat(30_000) })).toBeUndefined();
    expect(fetched.mock.lastCall![1]).toMatchObject({ keepalive: false });
  });
  test('a refusal carries the server’s code and sentence', async () => {
    answers(() => Response.json({ error: { code: 'STALE_VERSION', message: 'Someone else was faster.' } }, { status: 409 }));
    await expect(call('/x')).rejects.toMatchObject({ code: 'STALE_VERSION', message: 'Someone else was faster.' });
  });
  test('no server, and an answer that is none, are told apart', async () => {
    answers(() => Promise.reject(new TypeError('connection refused')));
    await expect(call('/x')).rejects.toMatchObject({ code: 'OFFLINE', message: 'The server does not answer. Your changes wait on this page until it does.' });
    answers(() => new Response('<html>', { status: 502 }));
    await expect(call('/x')).rejects.toMatchObject({ code: 'INTERNAL', message: 'The server gave no understandable answer.' });
  });
});
