import { describe, expect, test } from 'vitest';
import { overlaps } from '../../core/base/rect.ts';
import type { BalloonRecord, DrawingDocument, DrawingDocumentRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { inkOf, textRect } from '../../core/picture/ink.ts';
import { coverageOf } from '../../core/proof/coverage.ts';
import { findingsOf, fixOf } from '../../core/proof/findings.ts';
import { draftAll } from '../../core/testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { Scene } from '../scene.ts';
import { balloonKind } from './kind.ts';
import { balloonWords, wordOf } from './says.ts';
import { fastenedWith, stacked } from './stack.ts';

/** A plate on a base, held by a bolt with a washer and a nut about one axis; a pin stands beside. */
const machine = assemblyOf([
  { name: 'Base', geometry: box([-40, -30, 0], [40, 30, 10]) },
  { name: 'Bolt M8', geometry: cylinder(4, 40), at: [20, 0, -10] },
  { name: 'Washer 8', geometry: cylinder(8, 2, 32, 4.2), at: [20, 0, 12] },
  { name: 'Nut M8', geometry: cylinder(6.5, 7, 6, 4), at: [20, 0, 14] },
  { name: 'Plate', geometry: box([-20, -10, 10], [10, 10, 16]) },
  { name: 'Pin', geometry: cylinder(3, 30), at: [-30, 0, 10] },
]);
const drawn = await draftAll(machine);
const balloonOf = (part: string): BalloonRecord => drawn.scene.all('balloon').find((b) => drawn.scene.itemAt(b.component)?.part === part)!;
const sceneWith = (steps: readonly ({ op: 'put'; record: DrawingDocumentRecord } | { op: 'drop'; id: string })[]): Scene => {
  const r = applySteps(drawn.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
};
const bolt = balloonOf('Bolt M8');
const draw = (b: BalloonRecord) => balloonKind.draw(b, sceneWith([{ op: 'put', record: b }]))[0]!;
const texts = (b: BalloonRecord) => draw(b).items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));

describe('what stands in a balloon (ISO 6433)', () => {
  const { number } = drawn.scene.itemAt(bolt.component)!;
  test('the item number; over its quantity; any word of the item, with something before it', () => {
    expect(texts(bolt)).toEqual([String(number)]);
    expect(texts({ ...bolt, shape: 'split' })).toEqual([String(number), '1']);
    expect(texts({ ...bolt, shape: 'split', lower: 'description' })).toEqual([String(number), 'Bolt M8']);
    expect(texts({ ...bolt, says: 'description', before: '4×' })).toEqual(['4× Bolt M8']);
    // What the item does not have is a dash.
    expect(texts({ ...bolt, says: 'drawingNumber' })).toEqual(['–']);
  });
  test('whatever a list can have a column of: measured, weighed, the drafter’s own', () => {
    // A cylinder of 8 × 40 mm is a bar of that length.
    expect(texts({ ...bolt, says: 'length' })).toEqual(['40']);
    const ledger = { ...drawn.scene.ledger, own: [{ key: 'own:bin', title: 'Bin', kind: 'text' as const }] };
    const part = drawn.scene.itemAt(bolt.component)!.part;
    const property = { type: 'property', id: `property:${part}`, part, values: { 'own:bin': 'C-14' } } as const;
    const scene = sceneWith([ledger, property].map((record) => ({ op: 'put', record }) as const));
    expect(balloonWords(scene)).toContainEqual(['own:bin', 'Bin']);
    const item = scene.itemAt(bolt.component);
    expect(wordOf(item, 'own:bin', scene)).toBe('C-14');
    expect(wordOf(undefined, 'own:bin', scene)).toBe('?');
  });
  test('circles keep one size and grow only where a text does not fit', () => {
    const width = (b: BalloonRecord) => draw(b).box[2];
    expect(width(bolt)).toBe(10);
    expect(width({ ...bolt, shape: 'split' })).toBe(10);
    const wide = draw({ ...bolt, says: 'description' });
    expect(wide.box[2]).toBeGreaterThan(12);
    const words = wide.items.find((i) => i.kind === 'text')!;
    if (words.kind === 'text') {
      const r = textRect(words);
      expect([r.x > wide.box[0], r.x + r.width < wide.box[0] + wide.box[2]]).toEqual([true, true]);
    }
  });
  test('a hexagon, a line under it, nothing around it; no leader; a colour', () => {
    const shapes = (b: BalloonRecord) => draw(b).items.filter((i) => i.kind === 'stroke').length;
    const strokes = shapes(bolt);
    expect(shapes({ ...bolt, shape: 'none' })).toBe(strokes - 1);
    expect(shapes({ ...bolt, shape: 'hexagon' })).toBe(strokes);
    expect(shapes({ ...bolt, shape: 'underline' })).toBe(strokes);
    expect(draw({ ...bolt, noLeader: true }).solid.segments).toEqual([]);
    expect(draw({ ...bolt, color: '#aa0000' }).items.every((i) => i.kind === 'image' || i.color === '#aa0000')).toBe(true);
  });
  test('the leader of words joins their line at the nearer end', () => {
    const d = draw({ ...bolt, shape: 'underline', says: 'description' });
    const [leader] = d.solid.segments;
    const [x, y, w, h] = d.box;
    expect([x, x + w].some((end) => Math.abs(leader![0] - end) < 1e-9)).toBe(true);
    expect(leader![1]).toBeCloseTo(y + h, 9);
  });
});

describe('stacks', () => {
  const stack = fastenedWith(bolt, drawn.scene);
  test('a bolt is offered its washer and its nut in the order in which they sit; a pin beside it, and what is no fastener, nothing', () => {
    expect(stack).toEqual(['Washer 8', 'Nut M8']);
    expect(fastenedWith(balloonOf('Pin'), drawn.scene)).toEqual([]);
    expect(fastenedWith(balloonOf('Base'), drawn.scene)).toEqual([]);
  });
  test('their numbers stand beside each other without overlapping, whichever way', () => {
    for (const stackWay of [undefined, 'left', 'up', 'down'] as const) {
      const b: BalloonRecord = { ...bolt, stack, ...(stackWay ? { stackWay } : {}) };
      const circles = inkOf(draw(b).items.filter((i) => i.kind === 'stroke' && i.d.includes('A')));
      expect(circles).toHaveLength(3);
      for (let i = 0; i < 3; i++) for (let j = 0; j < i; j++) expect(overlaps(circles[i]!, circles[j]!, -0.01)).toBe(false);
      expect(texts(b)).toEqual([bolt.component, ...stack].map((p) => String(drawn.scene.itemAt(p)!.number)));
    }
  });
  test('items of a stack are identified; their own balloons go', () => {
    const scene = sceneWith(stacked(bolt, stack, drawn.scene) as never);
    expect(scene.all('balloon').length).toBe(drawn.scene.all('balloon').length - 2);
    const coverage = coverageOf(scene);
    scene.items.forEach((_, i) => expect(coverage.best(i)).toBe('identified'));
    expect(findingsOf(scene).filter((f) => ['NOT_IDENTIFIED', 'IDENTIFIED_TWICE'].includes(f.code))).toEqual([]);
  });
  test('said twice, the stack loses what is said elsewhere', () => {
    const scene = sceneWith([{ op: 'put', record: { ...bolt, stack } }]);
    const twice = findingsOf(scene).filter((f) => f.code === 'IDENTIFIED_TWICE');
    expect(twice.length).toBeGreaterThan(0);
    let document = scene.document;
    for (let n = 0; n < 4; n++) {
      const now = new Scene({ ...drawn, document });
      const found = findingsOf(now).find((f) => f.code === 'IDENTIFIED_TWICE');
      if (!found) break;
      const r = applySteps(
        document,
        fixOf(found, now, (t) => `${t}:x`),
      );
      if (!r.ok) throw new Error(r.reason);
      document = r.document as DrawingDocument;
    }
    const after = findingsOf(new Scene({ ...drawn, document }));
    expect(after.filter((f) => ['NOT_IDENTIFIED', 'IDENTIFIED_TWICE'].includes(f.code))).toEqual([]);
  });
  test('what is gone from the model is left out of the stack', () => {
    expect(draw({ ...bolt, stack: ['Washer 8'] }).label).toContain(',');
  });
});
