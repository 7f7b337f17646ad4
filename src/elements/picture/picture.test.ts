import { encode } from 'fast-png';
import { describe, expect, test } from 'vitest';
import type { SheetRecord } from '../../core/document/records.ts';
import { svgItems } from '../../core/picture/svg-items.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { composeSheet } from '../compose.ts';
import { sceneWith } from '../testing/scene-with.ts';
import { pictureKind, type PictureRecord } from './kind.ts';
import { pictureRecord } from './record.ts';

const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });
const [sheet] = drawn.scene.all('sheet') as readonly SheetRecord[];
const png = Buffer.from(encode({ width: 4, height: 2, data: new Uint8Array(4 * 2 * 3).fill(128), channels: 3 })).toString('base64');
const picture: PictureRecord = { type: 'picture', id: 'picture:1', sheet: sheet!.id, at: [30, 40], widthMm: 50, ratio: 0.5, name: 'logo.png', png };
const scene = sceneWith(drawn, picture);

describe('a picture', () => {
  test('is a PNG and nothing else', () => {
    expect(pictureRecord.safeParse(picture).success).toBe(true);
    expect(pictureRecord.safeParse({ ...picture, png: Buffer.from('<svg onload="alert(1)"/>').toString('base64') }).success).toBe(false);
    expect(pictureRecord.safeParse({ ...picture, png: `${png}" onload="x` }).success).toBe(false);
  });
  test('stands on its sheet under everything else, in its shape, and is written into files', () => {
    const { groups } = composeSheet(scene, sheet!.id);
    const at = groups.findIndex((g) => g.id === 'picture:1');
    expect(groups.slice(0, at).every((g) => ['frame', 'title'].includes(g.role))).toBe(true);
    expect(groups[at]).toMatchObject({ box: [30, 40, 50, 25], label: 'Picture logo.png' });
    expect(svgItems(groups[at]!.items, () => undefined)).toContain(`width="50" height="25" href="data:image/png;base64,${png}"`);
  });
  test('is moved, and sized by its corner without losing its shape', () => {
    const after = (...[by, handle]: [readonly [number, number], string?]) => {
      const [step] = pictureKind.drag!(picture, by, scene, handle);
      return step?.op === 'put' ? (step.record as PictureRecord) : undefined;
    };
    expect(after([3, 4])).toMatchObject({ at: [33, 44], widthMm: 50 });
    expect(after([10, 1], 'size')).toMatchObject({ at: [30, 40], widthMm: 60, ratio: 0.5 });
    expect(after([1, 10], 'size')).toMatchObject({ widthMm: 70 });
    expect(after([-500, 0], 'size')).toMatchObject({ widthMm: 3 });
    expect(pictureKind.handles!(picture, scene)).toEqual([{ name: 'size', at: [80, 65] }]);
  });
});
