import type { Solid, Solids } from '../demo/solids.ts';
import type { DemoNode, DemoPart } from '../demo/winch.ts';

/**
 * Generated machines for benchmarks and large tests: stations of twenty components on a grid. A station is a drilled plate
 * with bolts, washers and nuts, two brackets, a stepped shaft with a toothed wheel and a bush, a ball knob, and an O-ring
 * or a spring. Twenty variants differ in every part: 200 distinct parts from 400 components on.
 */
export const STATION_SIZE = 20;
const VARIANTS = 20;

export interface Machine {
  readonly name: string;
  readonly properties: Readonly<Record<string, string>>;
  readonly children: readonly DemoNode[];
}

/** @param count components, in steps of twenty; rounded up */
export function machine(s: Solids, count: number, variants = VARIANTS): Machine {
  const stations = Math.ceil(count / STATION_SIZE);
  const columns = Math.ceil(Math.sqrt(stations));
  const kinds = Array.from({ length: Math.min(variants, stations) }, (_, i) => station(s, i));
  let left = count;
  const children = Array.from({ length: stations }, (_, i): DemoNode => {
    const parts = kinds[i % kinds.length]!.slice(0, left);
    left -= parts.length;
    return {
      group: { name: `Station ${i + 1}`, properties: {}, children: parts },
      at: [(i % columns) * 170, Math.floor(i / columns) * 130, 0],
    };
  });
  return { name: `Machine of ${count}`, properties: {}, children };
}

/** The twenty components of one variant. */
function station(s: Solids, k: number): DemoNode[] {
  // Sizes that differ from variant to variant without a generator of chance.
  const vary = (low: number, high: number, step: number) => low + ((k * step) % 7) * ((high - low) / 6);
  const length = vary(120, 160, 3);
  const width = vary(80, 120, 5);
  const thick = vary(8, 14, 2) + k * 0.1;
  const d = vary(6, 10, 4) + (k % 3) * 0.3;
  const axis = vary(40, 55, 3) + thick;
  const shaft = vary(12, 20, 2) + k * 0.2;
  const x = length / 2 - 12;
  const y = width / 2 - 12;
  const corners = [
    [-x, -y],
    [x, -y],
    [x, y],
    [-x, y],
  ] as const;
  const part = (name: string, shape: Solid, color: string): DemoPart => ({ name: `${name} ${k + 1}`, shape, color, properties: {} });

  const plate = s.round(
    s.cut(
      s.box([-length / 2, -width / 2, 0], [length / 2, width / 2, thick]),
      ...corners.map(([cx, cy]) => s.cylinder([cx, cy, -1], 'z', d + 0.5, thick + 2)),
      s.cylinder([0, 0, -1], 'z', vary(20, 34, 3), thick + 2),
    ),
    6,
    ([px, py]) => Math.abs(Math.abs(px) - length / 2) < 0.01 && Math.abs(Math.abs(py) - width / 2) < 0.01,
  );
  const bolt = s.fuse(s.hexagon(d * 1.6, d * 0.65), s.cylinder([0, 0, -(thick + d * 2)], 'z', d, thick + d * 2 + 0.1));
  const washer = ring(s, (d + 0.5) / 2, d * 1.05, d * 0.18);
  const nut = s.cut(s.hexagon(d * 1.6, d * 0.8), s.cylinder([0, 0, -1], 'z', d, d + 2));
  const arm = vary(8, 14, 5);
  const bracket = s.cut(
    s.fuse(
      s.box([-arm / 2, -shaft * 1.4, thick], [arm / 2, shaft * 1.4, axis]),
      s.cylinder([-arm / 2, 0, axis], 'x', shaft * 2.8, arm),
      s.box([-arm / 2, -shaft * 1.4, thick], [arm * 1.5, shaft * 1.4, thick + 6]),
    ),
    s.cylinder([-arm, 0, axis], 'x', shaft, arm * 2),
  );
  const half = length / 2 - 20;
  const rod = alongX(s, [
    [0, -half - 12],
    [shaft * 0.4, -half - 12],
    [shaft * 0.4, -half - 6],
    [shaft / 2, -half - 6],
    [shaft / 2, half],
    [shaft * 0.3, half + 6],
    [shaft * 0.3, half + 14],
    [0, half + 14],
  ]);
  const wheel = toothed(s, 12 + (k % 9), vary(18, 26, 2), shaft / 2, vary(6, 12, 3));
  const bush = alongX(s, [
    [shaft / 2, 0],
    [shaft / 2 + 3, 0],
    [shaft / 2 + 3, 12],
    [shaft * 0.9, 12],
    [shaft * 0.9, 15],
    [shaft / 2, 15],
  ]);
  const knob = s.fuse(s.ball(vary(7, 11, 2) + k * 0.1), s.cylinder([0, 0, -16], 'z', 6, 16));
  const last = k % 4 === 3 ? s.coil(shaft + 8, 2, 4, 3) : s.torus(shaft / 2 + 5 + k * 0.1, 2);

  const STEEL = '#8fa3a6';
  const ZINC = '#b9bcc0';
  const parts = {
    plate: part('Plate', plate, STEEL),
    bolt: part('Hexagon bolt', bolt, ZINC),
    washer: part('Washer', washer, ZINC),
    nut: part('Hexagon nut', nut, ZINC),
    bracket: part('Bracket', bracket, '#d6d9dc'),
    shaft: part('Shaft', rod, '#c3c9cf'),
    wheel: part('Toothed wheel', wheel, '#c98a3a'),
    bush: part('Bush', bush, '#c0a060'),
    knob: part('Ball knob', knob, '#4b4a48'),
    last: part(k % 4 === 3 ? 'Spring' : 'O-ring', last, '#4b4a48'),
  };
  const out: DemoNode[] = [{ part: parts.plate, at: [0, 0, 0] }];
  for (const [cx, cy] of corners) {
    out.push({ part: parts.bolt, at: [cx, cy, thick + d * 0.18] });
    out.push({ part: parts.washer, at: [cx, cy, thick] });
    out.push({ part: parts.nut, at: [cx, cy, -d * 0.8] });
  }
  out.push({ part: parts.bracket, at: [-half + 6, 0, 0] }, { part: parts.bracket, at: [half - 22, 0, 0] });
  out.push({ part: parts.shaft, at: [0, 0, axis] }, { part: parts.wheel, at: [0, 0, axis] }, { part: parts.bush, at: [half - 14.5, 0, axis] });
  out.push({ part: parts.knob, at: [0, -width / 2 + 16, thick + 16] }, { part: parts.last, at: [0, width / 2 - 22, thick + 2] });
  return out;
}

const ring = (s: Solids, inner: number, outer: number, height: number) =>
  s.turned([
    [inner, 0],
    [outer, 0],
    [outer, height],
    [inner, height],
  ]);

/** An outline of (radius, x) turned about the x axis. */
function alongX(s: Solids, outline: readonly (readonly [number, number])[]): Solid {
  return s.turnedShape(s.turned(outline), 'x');
}

/** A wheel in the plane square to x, with trapezoid teeth. */
function toothed(s: Solids, teeth: number, radius: number, bore: number, width: number): Solid {
  const step = (2 * Math.PI) / teeth;
  const points = Array.from({ length: teeth }, (_, i) =>
    (
      [
        [-0.3, 0.85],
        [-0.12, 1],
        [0.12, 1],
        [0.3, 0.85],
      ] as const
    ).map(([a, r]): [number, number, number] => [0, radius * r * Math.cos((i + a) * step), radius * r * Math.sin((i + a) * step)]),
  ).flat();
  return s.cut(s.prism(points, [width, 0, 0]), s.cylinder([-1, 0, 0], 'x', bore * 2, width + 2));
}
