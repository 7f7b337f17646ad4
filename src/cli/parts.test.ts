import { describe, expect, test } from 'vitest';
import { quarry as run, spawned } from './testing/quarry.ts';

// The contract of the command line for parts of views and slices, on the built program.
const AS1 = 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp';
interface View {
  readonly lengthsMm: { readonly visible: Readonly<Record<'sharp' | 'outline' | 'tangent' | 'cut', number>> };
  readonly boxMm: readonly [number, number];
  readonly extentMm: readonly [number, number, number, number];
  readonly items: readonly { readonly name: string; readonly visiblePx: number }[];
}
const quarry = <T = View>(...argv: string[]) => run<T>(...argv);
const total = (v: View) => Object.values(v.lengthsMm.visible).reduce((a, b) => a + b, 0);
const front = (...more: string[]) => quarry('view', AS1, '--direction', 'front', ...more);

describe('view', () => {
  const whole = front().out;
  test('within: the halves of a view add up to the whole, and each has its own box', () => {
    const [x0, y0, x1, y1] = whole.extentMm;
    // A border that no line runs along, or it would count on both sides.
    const x = 61.7;
    const box = (a: number, b: number) => `${a},${y0 - 1};${b},${y0 - 1};${b},${y1 + 1};${a},${y1 + 1}`;
    const [left, right] = [front('--within', box(x0 - 1, x)).out, front('--within', box(x, x1 + 1)).out];
    expect(total(left) + total(right)).toBeCloseTo(total(whole), 4);
    expect(left.extentMm[2]).toBeCloseTo(x, 6);
    expect(right.extentMm[0]).toBeCloseTo(x, 6);
    expect(right.boxMm[0]).toBeCloseTo(x1 - x, 6);
  });
  test('interrupt: shorter by what is left out, gap 0, from the same origin', () => {
    const { out } = front('--interrupt', 'x:61.7,120.3');
    expect(out.boxMm[0]).toBeCloseTo(whole.boxMm[0] - 58.6, 6);
    expect(out.extentMm[0]).toBeCloseTo(whole.extentMm[0], 6);
    expect(out.boxMm[1]).toBeCloseTo(whole.boxMm[1], 6);
    const gone = front('--within', '61.7,-99;120.3,-99;120.3,199;61.7,199').out;
    expect(total(out) + total(gone)).toBeCloseTo(total(whole), 4);
  });
  test('only and without: by the name of a component or of a sub-assembly', () => {
    const only = front('--only', 'nut').out;
    // Six nuts and two at the ends of the rod; nothing else is there to hide them.
    expect(only.items.map((i) => i.name)).toEqual(['nut']);
    expect(only.boxMm[0]).toBeLessThan(whole.boxMm[0]);
    const rod = front('--only', 'rod-assembly').out;
    expect(rod.items.map((i) => i.name).sort()).toEqual(['nut', 'rod']);
    const without = front('--without', 'rod-assembly').out;
    expect(without.items.some((i) => i.name === 'rod')).toBe(false);
    expect(without.boxMm[0]).toBeCloseTo(180, 6);
    expect(front('--only', 'flange')).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
    expect(front('--only', 'nut', '--without', 'rod')).toMatchObject({ status: 2 });
  });
  test('turn: the model about its own axes, in degrees', () => {
    const [turned, left] = [front('--turn', '0,0,90').out, quarry('view', AS1, '--direction', 'left').out];
    expect(total(turned)).toBeCloseTo(total(left), 3);
    turned.extentMm.forEach((v, i) => expect(v).toBeCloseTo(left.extentMm[i]!, 6));
    expect(front('--turn', '10,20')).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
  });
  test.each([
    ['--within', '0,0;1,1'],
    ['--within', '0,0;1,1;2,2'],
    ['--interrupt', 'z:1,2'],
    ['--interrupt', 'x:5,5'],
  ])('%s %s is refused', (option, value) => {
    expect(front(option, value)).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
  });
});

describe('slice', () => {
  interface Slices {
    readonly slices: readonly {
      readonly d: number;
      readonly areaMm2: number;
      readonly perComponent: readonly { readonly path: string; readonly areaMm2: number; readonly loops: number }[];
    }[];
  }
  test('through plate and brackets: areas by arithmetic', () => {
    const { out } = spawned<Slices>('slice', AS1, '--normal', '0,0,3', '--at', '10,50');
    const [plate, brackets] = out.slices as readonly [Slices['slices'][0], Slices['slices'][0]];
    // 180 × 150, the holes filled by bolts of 10 mm.
    expect(plate.areaMm2).toBeCloseTo(180 * 150, 1);
    expect(plate.perComponent.find((c) => c.path === 'plate')).toMatchObject({ loops: 7, areaMm2: expect.closeTo(180 * 150 - 6 * Math.PI * 25, 1) as number });
    expect(brackets.perComponent.map((c) => c.path)).toEqual(['l-bracket-assembly/l-bracket', 'l-bracket-assembly:2/l-bracket']);
  });
  test('only some; beside everything there is nothing; a plane without a direction is refused', () => {
    const { out } = quarry<Slices>('slice', AS1, '--normal', '0,0,1', '--at', '10,500', '--only', 'plate');
    expect(out.slices.map((s) => s.perComponent.length)).toEqual([1, 0]);
    expect(quarry('slice', AS1, '--normal', '0,0,0', '--at', '1')).toMatchObject({ status: 2 });
    expect(quarry('slice', AS1, '--normal', '0,0,1')).toMatchObject({ status: 2 });
  });
});
