import { gunzipSync } from 'node:zlib';
import { describe, expect, it, vi } from 'vitest';

vi.mock('$server', () => ({ errorResponse: () => new Response(null, { status: 500 }), log: { error: () => {} } }));

import { addressOf, bytes, compressed, jobId } from './api.server';

const asking = (accepts: string) => ({ request: new Request('http://x/', { headers: { 'accept-encoding': accepts } }) }) as Parameters<typeof compressed>[0];
const data = { list: Array.from({ length: 2000 }, (_, i) => `entry ${i}`) };

describe('answers', () => {
  it('are compressed for who takes that, byte for byte nothing but the answer', async () => {
    // Several at once: compressed pieces share buffers.
    const all = await Promise.all(Array.from({ length: 8 }, () => compressed(asking('br, gzip'), data)));
    for (const r of all) {
      expect(r.headers.get('content-encoding')).toBe('gzip');
      const packed = Buffer.from(await r.arrayBuffer());
      expect(packed.length).toBeLessThan(JSON.stringify(data).length / 3);
      expect(JSON.parse(gunzipSync(packed).toString())).toEqual(data);
      // The stream ends where the body ends: its last four bytes are the length (RFC 1952).
      expect(packed.readUInt32LE(packed.length - 4)).toBe(Buffer.byteLength(JSON.stringify(data)));
    }
  });
  it('know the address that they were asked at: plain HTTP, unless something in front says otherwise', () => {
    const at = (headers: Record<string, string>) => addressOf({ request: new Request('https://x/api', { headers }), url: new URL('https://x/api') });
    expect(at({ host: '127.0.0.1:5000' })).toBe('http://127.0.0.1:5000');
    expect(at({ host: '10.0.0.1', 'x-forwarded-proto': 'https', 'x-forwarded-host': 'drawings.works' })).toBe('https://drawings.works');
    expect(at({})).toBe('http://x');
  });
  it('come as they are for others', async () => {
    const r = await compressed(asking('identity'), data);
    expect(r.headers.get('content-encoding')).toBeNull();
    expect(await r.json()).toEqual(data);
  });
  it('copy bytes out of the buffer that they are a piece of', () => {
    const whole = Buffer.from('before, the piece, after');
    expect(Buffer.from(bytes(whole.subarray(8, 17))).toString()).toBe('the piece');
  });
  it('know an id of a job when they see one', () => {
    expect(jobId({ params: { id: 'a3f91a70-3b47-4432-aa98-3268a6dc40d5' } })).toBe('a3f91a70-3b47-4432-aa98-3268a6dc40d5');
    for (const id of [undefined, '', 'abc', 'A3F91A70-3B47-4432-AA98-3268A6DC40D5']) expect(() => jobId({ params: { id } })).toThrow(/not found/);
  });
});
