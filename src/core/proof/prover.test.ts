import { describe, expect, test } from 'vitest';
import type { BalloonRecord, DrawingDocument, DrawingDocumentRecord } from '../document/records.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { coverageCells, itemsAbout } from './coverage.ts';
import { findingKey, type Finding } from './finding.ts';
import { findingsOf } from './findings.ts';
import { Prover } from './prover.ts';

const drawn = await draftAll(smallMachine());
function prover(document: DrawingDocument = drawn.document): Prover {
  const p = new Prover(drawn.assembly);
  p.setFeatures(drawn.features);
  for (const v of drawn.scene.all('view')) p.setResult(v.id, drawn.results.get(v.id)!);
  p.change({ put: Object.values(document), drop: [] });
  return p;
}
const keys = (list: readonly Finding[]) => list.map(findingKey).sort();
const balloon = drawn.scene.all('balloon').find((b) => b.view === 'view:exploded')!;

describe('proved again after each change', () => {
  test('as proved in one go', () => {
    const p = prover();
    expect(keys(p.prove().findings)).toEqual(keys(findingsOf(drawn.scene)));
    const changes: readonly { put: readonly DrawingDocumentRecord[]; drop: readonly string[] }[] = [
      { put: [], drop: [balloon.id] },
      { put: [balloon], drop: [] },
      { put: [{ ...balloon, anchor: [1e4, 1e4] } as BalloonRecord], drop: [] },
      { put: [{ ...drawn.scene.drawing, standard: 'asme' }], drop: [] },
      { put: [{ ...drawn.scene.one('view', 'view:front')!, scale: 0.37 }], drop: [] },
      { put: [], drop: drawn.scene.all('list').map((l) => l.id) },
      { put: [{ type: 'proof', id: 'proof', off: ['OFF_TARGET', 'WRONG_TARGET'], severity: { LIST_GAP: 'must' }, accepted: [] }], drop: [] },
    ];
    let document = drawn.document;
    for (const change of changes) {
      p.change(change);
      const kept = Object.entries(document).filter(([id]) => !change.drop.includes(id));
      document = Object.fromEntries([...kept, ...change.put.map((r) => [r.id, r])]) as DrawingDocument;
      const whole = findingsOf(new Scene({ ...drawn, document }));
      const { findings } = p.prove();
      expect(keys(findings)).toEqual(keys(whole));
      expect(findings.map((f) => f.severity).sort()).toEqual(whole.map((f) => f.severity).sort());
    }
  });
  test('views that are not here are said, and proved when they come', () => {
    const p = new Prover(drawn.assembly);
    // Results may come before the drawing does.
    expect(p.ready).toBe(false);
    p.change({ put: Object.values(drawn.document), drop: [] });
    expect(p.ready).toBe(true);
    const before = p.prove();
    expect(before.open).toBe(drawn.scene.all('view').length);
    expect(before.findings.filter((f) => f.code === 'VIEW_MISSING')).toHaveLength(before.open);
    for (const v of drawn.scene.all('view')) p.setResult(v.id, drawn.results.get(v.id)!);
    p.setFeatures(drawn.features);
    expect(p.prove().open).toBe(0);
    expect(keys(p.prove().findings)).toEqual(keys(findingsOf(drawn.scene)));
  });
});

describe('a job’s own way of proving', () => {
  const gap = findingsOf(drawn.scene).find((f) => f.code === 'LIST_GAP')!;
  const withProof = (more: object) => {
    const proof = { type: 'proof', id: 'proof', off: [], severity: {}, accepted: [], ...more } as DrawingDocumentRecord;
    return findingsOf(new Scene({ ...drawn, document: { ...drawn.document, proof } }));
  };
  test('points are switched off and weighed anew', () => {
    expect(withProof({ off: ['LIST_GAP'] }).some((f) => f.code === 'LIST_GAP')).toBe(false);
    expect(withProof({ severity: { LIST_GAP: 'must' } }).find((f) => f.code === 'LIST_GAP')!.severity).toBe('must');
    expect(gap.severity).toBe('should');
  });
  test('a finding that is accepted stays so until its cause says something else', () => {
    const accepted = [{ key: findingKey(gap), reason: 'comes later', when: '2026-01-01' }];
    const after = withProof({ accepted });
    expect(after.filter((f) => f.accepted)).toMatchObject([{ code: 'LIST_GAP', about: gap.about, accepted: { reason: 'comes later' } }]);
    // One of what was missing is filled in: the rest is missing still, and that is another finding.
    const part = gap.about[0]!;
    const property = { type: 'property', id: `property:${part}`, part, values: { material: 'S235' } } as const;
    const proof = { type: 'proof', id: 'proof', off: [], severity: {}, accepted } as const;
    const changed = findingsOf(new Scene({ ...drawn, document: { ...drawn.document, proof, [property.id]: property } }));
    expect(changed.find((f) => f.code === 'LIST_GAP' && f.about[0] === part)).toMatchObject({ text: expect.not.stringContaining('material') as string });
    expect(changed.some((f) => f.accepted)).toBe(false);
  });
});

describe('items × views', () => {
  test('say what each view shows of each item, and where its balloon is', () => {
    const cells = coverageCells(drawn.scene);
    const plate = drawn.items.find((i) => i.part === 'Plate')!;
    const top = cells.find((c) => c.item === plate.number && c.view === 'view:top')!;
    const view = drawn.scene.one('view', 'view:top')!;
    const seen = drawn.results.get('view:top')!;
    expect(top.visibleMm2).toBeCloseTo(seen.visibleArea[0]! * view.scale ** 2, 9);
    expect(top.share).toBeCloseTo(seen.visibleShare[0]!, 9);
    // 120 × 80 mm less what stands on it.
    expect(seen.visibleArea[0]! / (120 * 80)).toBeGreaterThan(0.7);
    expect(top.share).toBeCloseTo(seen.visibleArea[0]! / (120 * 80), 1);
    const balloons = cells.filter((c) => c.balloon).map((c) => c.item);
    expect(new Set(balloons).size).toBe(drawn.items.length);
  });
  test('findings name the items they are about', () => {
    expect(itemsAbout(drawn.scene, [balloon.id])).toEqual([drawn.scene.itemAt(balloon.component)!.number]);
    expect(itemsAbout(drawn.scene, ['Plate', 'view:top', 'drawing'])).toEqual([drawn.items.find((i) => i.part === 'Plate')!.number]);
  });
});

test('a row of one’s own stands in the list, and nobody looks for it in a view', () => {
  const row = { type: 'row', id: 'row~grease', quantity: '0.2', order: 0 } as const;
  const words = { type: 'property', id: 'property:row~grease', part: 'row~grease', values: { description: 'Grease' } } as const;
  const scene = new Scene({ ...drawn, document: { ...drawn.document, [row.id]: row, [words.id]: words } });
  expect(keys(findingsOf(scene))).toEqual(keys(findingsOf(drawn.scene)));
  const list = scene.all('list')[0]!;
  const texts = composeSheet(scene, list.sheet)
    .groups.find((g) => g.role === 'list')!
    .items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));
  expect(texts).toEqual(expect.arrayContaining(['Grease', '0.2', String(drawn.items.length + 1)]));
});
