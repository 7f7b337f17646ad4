import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import { KernelHost } from './host.ts';

// The bundled thread, as the server and the command line use it.
const host = new KernelHost(join(process.cwd(), 'build/node/kernel.thread.js'));
afterAll(() => host.close());
const FILES = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles');
const file = (name: string) => ({ name, bytes: new Uint8Array(readFileSync(join(FILES, name))) });

describe('the kernel thread', () => {
  test('reads with progress, and stays warm for the next job', async () => {
    const stages: string[] = [];
    const first = await host.import([file('cube-units/cube-mm.step')], { onProgress: (s) => stages.push(s) });
    expect([...new Set(stages)]).toEqual(['starting', 'reading', 'translating', 'meshing']);
    const second = await host.import([file('cube-units/cube-in.step')]);
    expect(second.times.kernel).toBeLessThan(first.times.kernel / 10);
  });

  test('with helping threads the result is the same, part by part', async () => {
    const alone = await host.import([file('cax-if/dm1-oc-214.stp')], { helpers: 0 });
    const done: number[] = [];
    const shared = await host.import([file('cax-if/dm1-oc-214.stp')], { helpers: 2, onProgress: (stage, n) => stage === 'meshing' && done.push(n) });
    expect(shared.assembly).toEqual(alone.assembly);
    expect(new Map(shared.geometries)).toEqual(new Map(alone.geometries));
    expect(done.at(-1)).toBe(shared.assembly.parts.length);
  });

  test('what was meshed before is not meshed again, and the result is the same', async () => {
    const asked: string[][] = [];
    const none = await host.import([file('cax-if/dm1-oc-214.stp')], { find: async (hashes) => (asked.push([...hashes]), []) });
    expect(asked[0]!.length).toBe(none.shapes.length);
    const packed = new Map(none.geometries);
    const [left, ...kept] = none.shapes;
    const done: number[] = [];
    const some = await host.import([file('cax-if/dm1-oc-214.stp')], {
      find: async (hashes) => kept.filter(([hash]) => hashes.includes(hash)).map(([hash, key]) => [hash, key, packed.get(key)!] as const),
      onProgress: (stage, n) => stage === 'meshing' && done.push(n),
    });
    expect(some.assembly).toEqual(none.assembly);
    expect(new Map(some.geometries)).toEqual(packed);
    expect(some.shapes).toEqual([left]);
    expect(done).toContain(kept.length);
  });

  test('a cancel ends the thread; the next job gets a fresh one', async () => {
    const abort = new AbortController();
    const job = host.import([file('cax-if/as1-oc-214.stp')], { signal: abort.signal, onProgress: (s) => s === 'reading' && abort.abort() });
    await expect(job).rejects.toMatchObject({ code: 'CANCELLED' });
    expect((await host.import([file('cube-units/cube-mm.step')])).assembly.parts.length).toBe(1);
  });

  test('after its number of jobs the thread is replaced, since its heap never shrinks', async () => {
    const few = new KernelHost(join(process.cwd(), 'build/node/kernel.thread.js'), 2);
    try {
      const times: number[] = [];
      for (let i = 0; i < 4; i++) times.push((await few.import([file('cube-units/cube-mm.step')])).times.kernel);
      // The first and the third start a kernel, which takes seconds; the others find it warm.
      expect(times.map((t) => t > 300)).toEqual([true, false, true, false]);
    } finally {
      await few.close();
    }
  });

  test('a job over its time is stopped with a sentence', async () => {
    await expect(host.import([file('cax-if/as1-oc-214.stp')], { timeoutMs: 1000 })).rejects.toMatchObject({ code: 'IMPORT_TIMEOUT' });
  });

  test('coordinates that are no numbers end in an answer, and the thread is well afterwards', async () => {
    const cube = Buffer.from(file('cube-units/cube-mm.step').bytes).toString('latin1');
    const broken = cube.replace(/CARTESIAN_POINT\s*\(\s*'[^']*'\s*,\s*\(\s*[-\d.E+]+/, "CARTESIAN_POINT('',(NaN");
    await expect(host.import([{ name: 'nan.step', bytes: new TextEncoder().encode(broken) }])).rejects.toMatchObject({
      code: 'FILE_DAMAGED',
      message: expect.stringMatching(/^nan\.step is damaged: point #\d+ lies at \(NaN,/) as string,
    });
    expect((await host.import([file('cube-units/cube-mm.step')])).assembly.parts.length).toBe(1);
  });
});
