import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { greyOf, inGrey } from './grey.ts';
import { layerOf, layersOf } from './layers.ts';
import { A4, printPages, type PrintPage } from './print.ts';

const sheet = (width: number, height: number) => ({ width, height, groups: [] });
const A3 = sheet(420, 297);
/** Where a place of the sheet comes on the page. */
const onPage = (p: PrintPage, [x, y]: readonly [number, number]) => [p.at[0] + (x - p.window.x) * p.scale, p.at[1] + (y - p.window.y) * p.scale] as const;

describe('how sheets lie on paper', () => {
  test('in true size the page is the sheet; half is half of it, as A3 comes on A4 by its root (ISO 216)', () => {
    expect(printPages([A3], { mode: 'true' })).toMatchObject([{ width: 420, height: 297, scale: 1, marks: [] }]);
    expect(printPages([A3], { mode: 'half' })).toMatchObject([{ width: 210, height: 148.5, scale: 0.5 }]);
  });

  test('fitted it is wholly on the paper, turned as the sheet lies, never larger than it is', () => {
    const [a3] = printPages([A3], { mode: 'fit' });
    expect([a3!.width, a3!.height]).toEqual([297, 210]);
    // ISO 216: sizes that follow each other differ by √2; margins take some of it.
    expect(a3!.scale).toBeGreaterThan(0.6);
    expect(a3!.scale).toBeLessThan(Math.SQRT1_2);
    expect(printPages([sheet(100, 60)], { mode: 'fit' })[0]!.scale).toBe(1);
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 1300 }), fc.integer({ min: 100, max: 1300 }), fc.boolean(), (w, h, bar) => {
        const [p] = printPages([sheet(w, h)], { mode: 'fit', bar });
        const [a, b] = [onPage(p!, [0, 0]), onPage(p!, [w, h])];
        expect(Math.min(a[0], a[1], p!.width - b[0], p!.height - b[1])).toBeGreaterThanOrEqual(3);
      }),
    );
  });

  test('tiles show all of the sheet in true size, inside what printers print, with neighbours 10 mm over each other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 120, max: 1300 }), fc.integer({ min: 120, max: 1300 }), (w, h) => {
        const pages = printPages([sheet(w, h)], { mode: 'tiles', paper: A4 });
        for (const p of pages) {
          expect(p.scale).toBe(1);
          const end = onPage(p, [p.window.x + p.window.width, p.window.y + p.window.height]);
          expect(p.at[0]).toBeGreaterThanOrEqual(5);
          expect(end[0]).toBeLessThanOrEqual(p.width - 5);
          expect(end[1]).toBeLessThanOrEqual(p.height - 5);
        }
        // Every place of the sheet is on a page.
        for (let x = 0; x <= w; x += 17)
          for (let y = 0; y <= h; y += 17)
            expect(
              pages.some(({ window: r }) => x >= r.x - 1e-9 && x <= r.x + r.width + 1e-9 && y >= r.y - 1e-9 && y <= r.y + r.height + 1e-9),
              `${x} ${y}`,
            ).toBe(true);
      }),
      { numRuns: 40 },
    );
    const [first, second] = printPages([A3], { mode: 'tiles' });
    expect(first!.window.x + first!.window.width - second!.window.x).toBe(10);
    expect([first!.tile, second!.tile]).toEqual(['A1', 'A2']);
  });

  test('as few tiles as either way up allows: A1 takes 5 × 3 standing ones (194 × 280 mm of each are printed), not 4 × 4 lying ones', () => {
    expect(printPages([sheet(841, 594)], { mode: 'tiles' })).toHaveLength(15);
    expect(printPages([sheet(190, 270)], { mode: 'tiles' })).toHaveLength(1);
  });

  test('the bar is 100 mm long, with a tick each 10, on every tile and where it is wanted', () => {
    for (const mode of ['true', 'half', 'fit', 'tiles'] as const)
      for (const p of printPages([A3], { mode, bar: true })) {
        const [long] = p.marks.flatMap((m) => (m.kind === 'stroke' && m.width === 0.25 ? [m.d] : []));
        const [x0, y0, x1, y1] = long!.match(/-?[\d.]+/g)!.map(Number) as [number, number, number, number];
        expect([x1 - x0, y1 - y0]).toEqual([100, 0]);
        expect(p.marks.filter((m) => m.kind === 'stroke' && m.width === 0.18)).toHaveLength(11);
      }
  });
});

test('greys are as light as the colours: the weights of ITU-R BT.709', () => {
  expect([greyOf('#ffffff'), greyOf('#000000'), greyOf('#ff0000'), greyOf('#00ff00'), greyOf('#0000ff')]).toEqual([
    '#ffffff',
    '#000000',
    '#363636',
    '#b6b6b6',
    '#121212',
  ]);
  const list = {
    ...A3,
    groups: [
      {
        id: 'a',
        role: 'view',
        label: '',
        box: [0, 0, 1, 1] as const,
        items: [
          { kind: 'fill' as const, d: 'M0 0', color: '#ff0000' },
          { kind: 'stroke' as const, d: 'M0 0', width: 1 },
        ],
      },
    ],
  };
  expect(inGrey(list).groups[0]!.items).toEqual([
    { kind: 'fill', d: 'M0 0', color: '#363636' },
    { kind: 'stroke', d: 'M0 0', width: 1 },
  ]);
});

test('layers stand in one order, whatever stands first on the sheet, and new kinds lie on one too', () => {
  expect(layersOf([{ role: 'balloon' }, { role: 'frame' }, { role: 'view' }, { role: 'balloon' }])).toEqual(['Sheet', 'Views', 'Balloons']);
  expect(layerOf({ role: 'something new' })).toBe('Notes');
});
