import { expect, test } from 'vitest';
import { without } from '../../core/base/without.ts';
import { overlaps, rectOf } from '../../core/base/rect.ts';
import { pointsOfPath } from '../../core/testing/paths.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { composeSheet } from '../compose.ts';
import { sceneWith } from '../testing/scene-with.ts';
import { codeKind, modulesOf, type CodeRecord } from './kind.ts';
import { newCode } from './place.ts';

const drawn = await draftAll(smallMachine());
const sheet = drawn.scene.sheets[0]!.id;
const code: CodeRecord = { type: 'code', id: 'code:1', sheet, at: [40, 200], sizeMm: 22, says: 'http://drawings.works/guide/1' };
const draw = (record: CodeRecord, guide?: string) =>
  codeKind.draw(record, sceneWith(drawn, record, guide ? { ...drawn.scene.drawing, guide } : drawn.scene.drawing))[0]!;

test('three finder patterns of 7 × 7 with a ring of light in them (ISO/IEC 18004), in three corners', () => {
  const m = modulesOf('http://drawings.works/guide/1');
  const n = m.length;
  // Sides of symbols are 21 + 4 × version.
  expect((n - 21) % 4).toBe(0);
  for (const [r, c] of [
    [0, 0],
    [0, n - 7],
    [n - 7, 0],
  ] as const)
    for (let i = 0; i < 7; i++)
      for (let k = 0; k < 7; k++) {
        const ring = Math.max(Math.abs(i - 3), Math.abs(k - 3));
        expect(m[r + i]![c + k]).toBe(ring !== 2);
      }
});

test('what is drawn is what is dark, with four modules of white around it', () => {
  const [fill] = draw(code).items;
  const m = modulesOf(code.says!);
  const size = 22 / (m.length + 8);
  const paths = fill!.kind === 'fill' ? pointsOfPath(fill!.d) : [];
  const area = paths.reduce(
    (s, p) => s + (Math.max(...p.map((q) => q[0])) - Math.min(...p.map((q) => q[0]))) * (Math.max(...p.map((q) => q[1])) - Math.min(...p.map((q) => q[1]))),
    0,
  );
  expect(area).toBeCloseTo(m.flat().filter(Boolean).length * size * size, 0);
  expect(Math.min(...paths.flat().map((p) => p[0]))).toBeCloseTo(40 + 4 * size, 2);
});

test('before an issue it is an empty place; after it the address of its guide', () => {
  const of = without(code, 'says') as CodeRecord;
  expect(draw(of).items.some((i) => i.kind === 'fill')).toBe(false);
  expect(draw(of, 'http://drawings.works/guide/7').label).toBe('QR code: http://drawings.works/guide/7');
});

test('it is put where nothing stands, inside the frame', () => {
  const at = newCode(drawn.scene, sheet, 'code:2');
  const box = { x: at.at[0], y: at.at[1], width: at.sizeMm, height: at.sizeMm };
  for (const g of composeSheet(drawn.scene, sheet).groups) if (g.role !== 'frame') expect(overlaps(rectOf(g.box), box), g.label).toBe(false);
  const { frame } = drawn.scene.page(sheet).geometry;
  expect(box.x >= frame.x && box.y + box.height <= frame.y + frame.height).toBe(true);
});

test('its corner makes it larger, and it stays a square that can be read', () => {
  expect(codeKind.drag!(code, [5, 3], drawn.scene, 'size')).toMatchObject([{ record: { sizeMm: 27 } }]);
  expect(codeKind.drag!(code, [-50, -50], drawn.scene, 'size')).toMatchObject([{ record: { sizeMm: 8 } }]);
  expect(codeKind.drag!(code, [5, 3], drawn.scene)).toMatchObject([{ record: { at: [45, 203] } }]);
});
