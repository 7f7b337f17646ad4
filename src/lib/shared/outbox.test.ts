import { describe, expect, test } from 'vitest';
import type { DrawingDocument } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { ApiFailure } from './api.ts';
import { Outbox, type Change, type ChangeLine, type OutboxState } from './outbox.ts';

const property = (part: string, values: Record<string, string>): Step => ({ op: 'put', record: { type: 'property', id: `property:${part}`, part, values } });
const edit = (part: string, text: string): Change => ({ kind: 'edit', label: text, steps: [property(part, { description: text })] });
const textOf = (doc: DrawingDocument, part: string) => {
  const r = doc[`property:${part}`];
  return r?.type === 'property' ? r.values['description'] : undefined;
};

/** A server of the simplest kind, with a line that can break before or after it has taken a change. */
function server() {
  const log: { version: number; token: string; steps: readonly Step[] }[] = [];
  let document: DrawingDocument = {};
  const sent: { version: number; token: string }[] = [];
  const state = { breaks: [] as ('before' | 'after')[], hold: Promise.resolve() };
  const make = (steps: readonly Step[], token: string) => {
    const r = applySteps(document, steps);
    if (!r.ok) throw new ApiFailure('STEP_DOES_NOT_FIT', `That does not fit: ${r.reason}.`);
    document = r.document;
    log.push({ version: log.length + 1, token, steps });
    return log.at(-1)!;
  };
  const line: ChangeLine = {
    async send(change, version, token) {
      sent.push({ version, token });
      await state.hold;
      const fault = state.breaks.shift();
      if (fault === 'before') throw new ApiFailure('OFFLINE', 'no answer');
      const made = log.find((l) => l.token === token);
      if (!made && version !== log.length) throw new ApiFailure('STALE_VERSION', 'The drawing has moved on.');
      const row = made ?? make(change.kind === 'edit' ? change.steps : [], token);
      if (fault === 'after') throw new ApiFailure('OFFLINE', 'no answer');
      return { ...row, canUndo: true, canRedo: false };
    },
    since: async (version) => ({ changes: log.filter((l) => l.version > version), canUndo: log.length > 0, canRedo: false }),
  };
  return { line, sent, state, log, other: (steps: readonly Step[]) => make(steps, `other ${log.length}`), document: () => document };
}

function box(line: ChangeLine) {
  const seen: OutboxState[] = [];
  const said: string[] = [];
  const b = new Outbox(
    { document: {}, version: 0, canUndo: false, canRedo: false },
    line,
    (s) => seen.push(s),
    (s) => said.push(s),
  );
  return { b, said, seen, now: () => seen.at(-1)! };
}

describe('changes on their way', () => {
  test('show at once and are confirmed in order', async () => {
    const s = server();
    const { b, now } = box(s.line);
    b.put(edit('plate', 'one'));
    b.put(edit('plate', 'two'));
    expect(textOf(now().document, 'plate')).toBe('two');
    expect(now().waiting).toBe(2);
    await b.settled();
    expect(now()).toMatchObject({ version: 2, waiting: 0, canUndo: true });
    expect(s.document()).toEqual(now().document);
  });

  test('a change without an answer waits, is kept on screen, and arrives before the next', async () => {
    const s = server();
    s.state.breaks = ['before'];
    const { b, now } = box(s.line);
    b.put(edit('plate', 'one'));
    await expect.poll(() => now().lost).toBe(true);
    b.put(edit('bolt', 'two'));
    expect(textOf(now().document, 'plate')).toBe('one');
    b.refresh();
    await b.settled();
    expect(now()).toMatchObject({ version: 2, waiting: 0, lost: false });
    expect([textOf(s.document(), 'plate'), textOf(s.document(), 'bolt')]).toEqual(['one', 'two']);
  });

  test('a lost answer does not make a change twice', async () => {
    const s = server();
    s.state.breaks = ['after'];
    const { b, now } = box(s.line);
    b.put({ kind: 'undo' });
    await expect.poll(() => now().lost).toBe(true);
    b.refresh();
    await b.settled();
    expect(s.log).toHaveLength(1);
    expect(s.sent.map((x) => x.token)).toEqual([s.sent[0]!.token, s.sent[0]!.token]);
    expect(now().version).toBe(1);
  });

  test('ours goes on top of what someone else did meanwhile', async () => {
    const s = server();
    const { b, now, said } = box(s.line);
    s.other([property('bolt', { description: 'theirs' })]);
    b.put(edit('plate', 'ours'));
    await b.settled();
    expect(now().version).toBe(2);
    expect([textOf(now().document, 'plate'), textOf(now().document, 'bolt')]).toEqual(['ours', 'theirs']);
    expect(s.document()).toEqual(now().document);
    expect(said).toEqual([]);
  });

  test('what no longer fits is taken back with a word why; the rest goes on', async () => {
    const s = server();
    const { b, now, said } = box(s.line);
    b.put(edit('plate', 'first'));
    await b.settled();
    s.other([{ op: 'drop', id: 'property:plate' }]);
    b.put({ kind: 'edit', label: 'Clear', steps: [{ op: 'drop', id: 'property:plate' }] });
    b.put(edit('bolt', 'stays'));
    await b.settled();
    expect(said).toHaveLength(1);
    expect(said[0]).toMatch(/“Clear” no longer fits/);
    expect(textOf(s.document(), 'bolt')).toBe('stays');
    expect(now().document).toEqual(s.document());
  });

  test('an undo is not made on top of what someone else did', async () => {
    const s = server();
    const { b, now, said } = box(s.line);
    s.other([property('bolt', { description: 'theirs' })]);
    b.put({ kind: 'undo' });
    await b.settled();
    expect(s.log).toHaveLength(1);
    expect(said).toEqual(['The drawing has moved on.']);
    expect(textOf(now().document, 'bolt')).toBe('theirs');
  });

  test('a change heard of while the page looks at the server is not missed', async () => {
    const s = server();
    let answer = () => {};
    const slow: ChangeLine = {
      ...s.line,
      since: async (version) => {
        const now = await s.line.since(version);
        await new Promise<void>((r) => (answer = r));
        return now;
      },
    };
    const { b, now } = box(slow);
    b.refresh();
    await expect.poll(() => answer.toString()).not.toBe('() => {}');
    // It comes after the server has answered, and before the answer is here.
    s.other([property('bolt', { description: 'theirs' })]);
    b.refresh(1);
    answer();
    await new Promise((r) => setTimeout(r, 20));
    answer();
    await expect.poll(() => textOf(now().document, 'bolt')).toBe('theirs');
  });

  test('a change heard of while ours is on its way is taken over after it', async () => {
    const s = server();
    let go = () => {};
    s.state.hold = new Promise((r) => (go = r));
    const { b, now } = box(s.line);
    b.put(edit('plate', 'ours'));
    b.refresh(2);
    go();
    await b.settled();
    s.other([property('bolt', { description: 'theirs' })]);
    b.refresh(2);
    await expect.poll(() => textOf(now().document, 'bolt')).toBe('theirs');
    expect(now().version).toBe(2);
  });
});
