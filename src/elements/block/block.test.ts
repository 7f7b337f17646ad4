import { describe, expect, test } from 'vitest';
import { BLANK_DRAWING } from '../../core/document/records.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { pointsOfPath } from '../../core/testing/paths.ts';
import { paperByName, sheetGeometry, styleFor } from '../../core/sheet/paper.ts';
import { isoBlock } from '../../core/format/blocks.ts';
import { titleBlockRect } from '../../core/sheet/page.ts';
import { fillIn } from '../field-values.ts';
import { blockItems } from './draw.ts';
import { layOutBlock } from './layout.ts';
import { projectionSymbol } from './projection-symbol.ts';

type Fields = Readonly<Record<string, unknown>>;

/** Box of a path: minX minY maxX maxY. */
function boxOf(d: string): [number, number, number, number] {
  const p = pointsOfPath(d).flat();
  const [x, y] = [p.map((v) => v[0]), p.map((v) => v[1])];
  return [Math.min(...x), Math.min(...y), Math.max(...x), Math.max(...y)].map((v) => Math.round(v * 1e3) / 1e3) as [number, number, number, number];
}

describe('the title block', () => {
  const fields: Fields = {
    ...BLANK_DRAWING,
    checkedBy: '',
    title: 'Sampling winch',
    number: 'SW-40-00',
    revision: 'B',
    date: '2026-01-31',
    owner: 'Tidewater',
    drawnBy: 'A. Example',
    approvedBy: 'C. Example',
    sheet: 2,
    sheets: 3,
    size: 'A3',
    scale: '1:5',
    mass: '16 kg',
    sheetName: 'Section',
    quantity: 1,
  };
  const format = paperByName('A3')!;
  const [geometry, style] = [sheetGeometry(format, true), styleFor(format)];
  const rect = titleBlockRect(geometry);
  const drawn = (f: Fields = fields, frame = geometry.frame) =>
    blockItems(
      layOutBlock(isoBlock(false), frame, style, (words) => fillIn(words, (name) => String(f[name] ?? ''))),
      style,
      'iso',
    );
  const texts = (f = fields) => drawn(f).flatMap((i) => (i.kind === 'text' ? [i] : []));

  // ISO 7200: 180 mm wide, in the lower right corner of the frame.
  test('is 180 mm wide and stands in the lower right corner', () => {
    expect(rect.width).toBe(180);
    expect([rect.x + rect.width, rect.y + rect.height]).toEqual([geometry.frame.x + geometry.frame.width, geometry.frame.y + geometry.frame.height]);
  });
  // ISO 7200, table of mandatory data fields.
  test('has every mandatory field', () => {
    const shown = new Set(texts().flatMap((t) => t.source?.field ?? []));
    for (const field of ['owner', 'number', 'date', 'sheet', 'title', 'approvedBy', 'drawnBy', 'sheetName']) expect([...shown]).toContain(field);
    expect(texts().map((t) => t.text)).toEqual(expect.arrayContaining(['Sampling winch', 'SW-40-00', '2 of 3', '1:5', '2026-01-31']));
  });
  test('keeps long texts inside its cells', () => {
    const long = 'An assembly with a title that goes on and on until nobody could read it on one line of any sheet';
    const lines = texts({ ...fields, title: long, number: 'SW-40-00-WITH-A-VERY-LONG-NUMBER' }).filter(
      (t) => t.source?.field === 'title' && t.text !== 'Title',
    );
    expect(lines).toHaveLength(2);
    expect(lines.map((l) => l.text).join(' ')).toMatch(/^An assembly with a title/);
    for (const t of texts({ ...fields, title: long })) {
      expect(t.x).toBeGreaterThanOrEqual(rect.x);
      expect(t.y).toBeLessThanOrEqual(rect.y + rect.height);
    }
  });
  // ISO 7200 wants title, number and document type whole: smaller letters, more lines, words broken at their joints; never cut while there is room.
  test('titles, numbers and document types are whole as long as they can be read', () => {
    const whole = (field: string, words: string) => {
      const lines = texts({ ...fields, [field]: words }).filter((t) => t.source?.field === field);
      const values = lines.filter((t) => t.height >= style.caption && !['Title', 'Document type', 'Drawing number'].includes(t.text));
      expect(
        values
          .map((t) => t.text)
          .join('')
          .replaceAll(' ', ''),
      ).toBe(words.replaceAll(' ', ''));
      return values;
    };
    for (const words of ['Gantry', 'Gantry of the shoreline sampling winch with its drive, brake and cable guide, complete'])
      for (const t of whole('title', words)) expect(t.x + textWidth(t.text, t.height)).toBeLessThanOrEqual(rect.x + rect.width);
    whole('sheetName', 'Exploded view of the gearbox with its input shaft and sealing');
    expect(whole('number', 'SW-40-00')).toHaveLength(1);
    // A number is rather written smaller than broken.
    expect(whole('number', 'SW-40-00-0001-A')).toHaveLength(1);
    whole('number', 'SW-40-00-0001-A-000000000000000-B');
  });
  test('says which cells have something cut', () => {
    const cut = (title: string) =>
      layOutBlock(isoBlock(false), geometry.frame, style, (words) => fillIn(words, (name) => String({ ...fields, title }[name] ?? '')))
        .cells.filter((c) => c.cut)
        .map((c) => c.field);
    expect(cut('Gantry')).toEqual([]);
    expect(cut('Gantry of the winch '.repeat(40))).toEqual(['title']);
  });
  test('its cells cover it without a gap and without overlapping', () => {
    const [outline, ...cells] = drawn().flatMap((i) => (i.kind === 'stroke' && /h.*v.*h/.test(i.d) ? [boxOf(i.d)] : []));
    expect(outline).toEqual([rect.x, rect.y, rect.x + rect.width, rect.y + rect.height]);
    const area = (b: readonly number[]) => (b[2]! - b[0]!) * (b[3]! - b[1]!);
    expect(cells.reduce((sum, c) => sum + area(c), 0)).toBeCloseTo(180 * 42, 6);
    cells.forEach((a, i) =>
      cells.slice(i + 1).forEach((b) => {
        const [w, h] = [Math.min(a[2]!, b[2]!) - Math.max(a[0]!, b[0]!), Math.min(a[3]!, b[3]!) - Math.max(a[1]!, b[1]!)];
        expect(w > 1e-6 && h > 1e-6).toBe(false);
      }),
    );
  });
  test.each([
    ['as it comes', {}],
    [
      'with long texts',
      {
        title: 'A title that goes on and on for much longer than the cell that it stands in is wide',
        owner: 'Tidewater Winches and Samplers Limited of Somewhere',
        number: 'SW-40-00-WITH-A-LONG-NUMBER-2026',
        sheetName: 'x'.repeat(90),
      },
    ],
  ])('every text stays in the cell of its field, the caption above the value: %s', (_, more) => {
    const items = drawn({ ...fields, ...more });
    let cell: readonly number[] = [];
    let caption: number | undefined;
    for (const i of items) {
      if (i.kind === 'stroke' && /h.*v.*h/.test(i.d)) [cell, caption] = [boxOf(i.d), undefined];
      if (i.kind !== 'text') continue;
      expect(i.x).toBeGreaterThan(cell[0]! + 1);
      expect(i.x + textWidth(i.text, i.height)).toBeLessThanOrEqual(cell[2]! + 1e-6);
      expect(i.y - i.height).toBeGreaterThan(cell[1]!);
      expect(i.y).toBeLessThan(cell[3]!);
      if (caption === undefined) {
        expect(i.height).toBe(1.8);
        // Right under the cell's upper line.
        expect(i.y - cell[1]!).toBeCloseTo(2.8, 9);
      } else expect(i.y - i.height).toBeGreaterThan(caption - 0.2);
      caption ??= i.y;
    }
  });
  test('values take their size, and the next smaller ones of ISO 3098 where they are too long', () => {
    const sizeOf = (field: string, f: Fields) => texts({ ...fields, ...f }).filter((t) => t.source?.field === field)[1]!.height;
    expect(['owner', 'title', 'number', 'revision', 'scale'].map((f) => sizeOf(f, {}))).toEqual([3.5, 5, 7, 3.5, 2.5]);
    expect(sizeOf('number', { number: 'SW-40-00-1234567' })).toBe(5);
    expect(sizeOf('number', { number: 'SW-40-00-12345678901234567890-1234567890-12345678901234567890' })).toBeLessThan(5);
    expect(sizeOf('revision', { revision: 'A preliminary' })).toBe(2.5);
  });
  test('one line stands in the middle of the room below the caption, two lines around it', () => {
    const lines = (title: string) =>
      texts({ ...fields, title })
        .filter((t) => t.source?.field === 'title')
        .slice(1);
    const [one] = lines('Winch');
    const [upper, lower] = lines('A title of so many words that they do not go on one line of the title block of any sheet');
    // The cell is 14 high, its caption takes 3.
    expect(one!.y - one!.height / 2).toBeCloseTo(rect.y + 3 + 5.5 - 0.3, 6);
    expect((upper!.y + lower!.y) / 2 - upper!.height / 2).toBeCloseTo(rect.y + 3 + 5.5 - 0.3, 6);
    expect(lower!.y - upper!.y).toBeCloseTo(1.5 * upper!.height, 9);
  });
  test('what is empty has its caption alone', () => {
    expect(
      texts({ ...fields, checkedBy: '' })
        .filter((t) => t.source?.field === 'checkedBy')
        .map((t) => t.text),
    ).toEqual(['Checked by']);
    expect(
      texts()
        .filter((t) => t.source?.field === 'checkedBy')
        .map((t) => t.text),
    ).toEqual(['Checked by']);
  });
  test('on a sheet that is narrower it is narrower too', () => {
    const cells = drawn(fields, { ...geometry.frame, width: 90 }).flatMap((i) => (i.kind === 'stroke' && /h.*v.*h/.test(i.d) ? [boxOf(i.d)] : []));
    expect(Math.max(...cells.map((c) => c[2]!))).toBeCloseTo(geometry.frame.x + 90, 6);
  });
  // ISO 5456-2: in first angle the cone's end view stands to the right of its side view, in third angle to the left.
  test('shows the projection by its symbol', () => {
    const circlesAt = (standard: 'iso' | 'asme') =>
      projectionSymbol(0, 0, standard, 0.25).flatMap((i) => (i.kind === 'stroke' && i.d.includes('A') ? [Number(i.d.match(/^M(-?[\d.]+)/)![1])] : []));
    expect(circlesAt('iso').every((x) => x > 0)).toBe(true);
    expect(circlesAt('asme').every((x) => x < 0)).toBe(true);
  });
  test('the symbol’s circles are the ends of its cone, and thin axes run past both', () => {
    for (const standard of ['iso', 'asme'] as const) {
      const items = projectionSymbol(100, 50, standard, 0.25).flatMap((i) => (i.kind === 'stroke' ? [i] : []));
      const [cone, ...others] = items;
      const p = pointsOfPath(cone!.d)[0]!;
      const [left, right] = [Math.min(...p.map((v) => v[0])), Math.max(...p.map((v) => v[0]))];
      const end = (x: number) => {
        const ys = p.filter((v) => v[0] === x).map((v) => v[1]);
        return [Math.min(...ys), Math.max(...ys)];
      };
      expect([end(left), end(right)]).toEqual([
        [48.75, 51.25],
        [47.5, 52.5],
      ]);
      const axes = others.filter((o) => o.dash).map((o) => pointsOfPath(o.d)[0]!);
      const circles = others.filter((o) => !o.dash).map((o) => boxOf(o.d));
      expect(circles.map((c) => [(c[2]! - c[0]!) / 2, (c[1]! + c[3]!) / 2])).toEqual([
        [1.25, 50],
        [2.5, 50],
      ]);
      expect(axes).toHaveLength(3);
      for (const o of others.filter((x) => x.dash)) expect(o.width).toBe(0.125);
      // One axis along the cone, two through the circles, each a little longer than what it goes through.
      const [along, level, upright] = axes;
      expect([along![0]![0] < left, along![1]![0] > right, along![0]![1], along![1]![1]]).toEqual([true, true, 50, 50]);
      const [, large] = circles;
      expect([level![0]![0] < large![0]!, level![1]![0] > large![2]!, level![0]![1]]).toEqual([true, true, 50]);
      expect([upright![0]![1] < large![1]!, upright![1]![1] > large![3]!, upright![0]![0]]).toEqual([true, true, (large![0]! + large![2]!) / 2]);
      // Cone and circles stand apart.
      expect(standard === 'iso' ? large![0]! > right : large![2]! < left).toBe(true);
    }
  });
});
