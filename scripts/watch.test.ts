import { describe, expect, test } from 'vitest';
// @ts-expect-error -- a script without types
import { keepUp as untyped } from './watch.mjs';

interface Running {
  readonly gone: Promise<unknown>;
  stop(): Promise<void>;
}
const keepUp = untyped as (o: {
  name: string;
  start: () => Promise<Running>;
  say: (s: string) => void;
  pauses?: readonly number[];
  wellAfterMs?: number;
  mostDeaths?: number;
}) => Promise<{ stop(): Promise<void>; gaveUp: Promise<void> }>;

/** Something that can be killed, and counts its lives. */
function mortal(couldNot: readonly number[] = []) {
  let lives = 0;
  let stopped = 0;
  let kill = () => {};
  return {
    kill: () => kill(),
    get lives() {
      return lives;
    },
    get stopped() {
      return stopped;
    },
    start(): Promise<Running> {
      lives++;
      if (couldNot.includes(lives)) return Promise.reject(new Error('the port is taken'));
      let end = () => {};
      const gone = new Promise<void>((resolve) => (end = resolve));
      kill = end;
      return Promise.resolve({
        gone,
        stop: () => {
          stopped++;
          end();
          return gone;
        },
      });
    },
  };
}
const soon = (ms = 15) => new Promise((r) => setTimeout(r, ms));
const options = { name: 'It', pauses: [1, 2], wellAfterMs: 60_000, mostDeaths: 3 };

describe('what is kept up', () => {
  test('is started again when it dies, and says so', async () => {
    const [m, said] = [mortal(), [] as string[]];
    const kept = await keepUp({ ...options, start: () => m.start(), say: (s) => said.push(s) });
    for (let n = 2; n <= 3; n++) {
      m.kill();
      await soon();
      expect(m.lives).toBe(n);
    }
    expect(said[0]).toMatch(/ended without being asked to/);
    expect(said[1]).toMatch(/is up again/);
    await kept.stop();
    await soon();
    expect([m.lives, m.stopped]).toEqual([3, 1]);
  });
  test('is left after so many deaths in a row, in a sentence', async () => {
    const [m, said] = [mortal(), [] as string[]];
    const kept = await keepUp({ ...options, start: () => m.start(), say: (s) => said.push(s) });
    for (let n = 0; n < 4; n++) {
      m.kill();
      await soon();
    }
    await kept.gaveUp;
    expect(m.lives).toBe(4);
    expect(said.at(-1)).toMatch(/is not started again.*nothing that was kept is lost/);
  });
  test('was well in between: the count begins anew', async () => {
    const [m, said] = [mortal(), [] as string[]];
    const kept = await keepUp({ ...options, wellAfterMs: 10, start: () => m.start(), say: (s) => said.push(s) });
    for (let n = 0; n < 6; n++) {
      await soon(25);
      m.kill();
    }
    await soon(25);
    expect(m.lives).toBe(7);
    await kept.stop();
  });
  test('that does not come up at once is tried again; one that never came up is said at the start', async () => {
    const [m, said] = [mortal([2, 3]), [] as string[]];
    const kept = await keepUp({ ...options, start: () => m.start(), say: (s) => said.push(s) });
    m.kill();
    await soon(40);
    expect(m.lives).toBe(4);
    expect(said.join(' ')).toContain('could not be started: the port is taken');
    await kept.stop();
    await expect(keepUp({ ...options, start: () => mortal([1]).start(), say: () => undefined })).rejects.toThrow('the port is taken');
  });
  test('is not started again after it was asked to stop, not even while it waits', async () => {
    const m = mortal();
    const kept = await keepUp({ ...options, pauses: [200], start: () => m.start(), say: () => undefined });
    m.kill();
    await soon();
    await kept.stop();
    await soon(250);
    expect(m.lives).toBe(1);
  });
});
