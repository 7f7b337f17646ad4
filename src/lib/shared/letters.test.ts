import { beforeEach, expect, test } from 'vitest';
import { actionFor, type Action } from './action';
import { Letters } from './letters';

let now = 0;
let later: { at: number; run: () => void }[] = [];
let done: string[] = [];
let letters: Letters;
const clock = {
  now: () => now,
  after(ms: number, run: () => void) {
    const one = { at: now + ms, run };
    later.push(one);
    return () => (later = later.filter((l) => l !== one));
  },
};
/** Time goes on. */
function pass(ms: number) {
  const end = now + ms;
  for (let next = later.filter((l) => l.at <= end).sort((a, b) => a.at - b.at)[0]; next; next = later.filter((l) => l.at <= end)[0]) {
    now = next.at;
    later = later.filter((l) => l !== next);
    next.run();
  }
  now = end;
}
const press = (letter: string) => letters.press(() => done.push(letter));

beforeEach(() => {
  [now, later, done] = [0, [], []];
  letters = new Letters(clock);
});

test('a letter by itself is a command, two after each other are two', () => {
  press('B');
  expect(done).toEqual([]);
  pass(200);
  expect(done).toEqual(['B']);
  press('V');
  pass(120);
  press('H');
  pass(200);
  expect(done).toEqual(['B', 'V', 'H']);
});
test('three within 200 ms run nothing, nor does what follows them', () => {
  for (const c of 'Housing') {
    press(c);
    pass(60);
  }
  pass(1000);
  expect(done).toEqual([]);
  press('B');
  pass(200);
  expect(done).toEqual(['B']);
});
test('another key or a press of the pointer runs what waits at once', () => {
  press('M');
  letters.flush();
  expect(done).toEqual(['M']);
  pass(500);
  expect(done).toEqual(['M']);
});
test('after a text that ended by the way letters do nothing for half a second, and as long as someone types on', () => {
  letters.hush();
  pass(400);
  press('S');
  pass(400);
  press('A');
  pass(499);
  press('B');
  pass(700);
  press('C');
  pass(200);
  expect(done).toEqual(['C']);
});
test('keys work from every control that takes no text', () => {
  const action: Action = { id: 'place', label: 'Place a view', key: 'W', run: () => {} };
  const keyIn = (kind: string) =>
    ({
      key: 'w',
      ctrlKey: false,
      metaKey: false,
      altKey: false,
      shiftKey: false,
      target: { closest: (s: string) => (takes(s, kind) ? {} : null) },
    }) as unknown as KeyboardEvent;
  /** Whether a selector's list of exceptions lets a control of this kind through. */
  const takes = (selector: string, kind: string) =>
    kind === 'textarea' || kind === 'select' ? selector.includes(kind) : selector.includes('input') && !selector.includes(`[type=${kind}]`);
  for (const kind of ['checkbox', 'radio', 'button', 'range']) expect(actionFor([action], keyIn(kind)), kind).toBe(action);
  for (const kind of ['text', 'textarea', 'select']) expect(actionFor([action], keyIn(kind)), kind).toBeUndefined();
});
