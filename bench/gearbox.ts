import type { Axis, Point, Solid, Solids } from '../demo/solids.ts';
import type { DemoNode, DemoPart } from '../demo/winch.ts';
import type { Machine } from './machine.ts';

/** Shaft positions along x, and the housing's walls; mm. The shafts lie along y in the joint of the housing. */
const FIRST = -40;
const SECOND = 45;
const WALL = 60;

/**
 * A spur gearbox of 60 components, our own invention: split housing, two shafts with gears, keys, bearings and spacers,
 * covers with their screws, seals, and the bolts, washers, nuts and dowels of the joint. A task for exploded views.
 */
export function gearbox(s: Solids): Machine {
  const part = (name: string, shape: Solid, color = '#9aa3a8'): DemoPart => ({ name, shape, color, properties: { Description: name } });
  const children: DemoNode[] = [];
  const add = (p: DemoPart, at: Point = [0, 0, 0], axis?: Axis) => children.push({ part: p, at, ...(axis ? { axis } : {}) });
  const ring = (outer: number, inner: number, length: number) =>
    s.cut(s.cylinder([0, 0, 0], 'z', outer, length), s.cylinder([0, 0, -1], 'z', inner, length + 2));

  const bores = [FIRST, SECOND].map((x) => s.cylinder([x, -WALL - 1, 0], 'y', 42, 2 * WALL + 2));
  const flangeHoles = [-125, 125].flatMap((x) => [-40, 0, 40].map((y): Point => [x, y, -13])).map((p) => s.cylinder(p, 'z', 9, 26));
  const dowelHoles = [s.cylinder([-132, 52, -13], 'z', 6, 26), s.cylinder([132, -52, -13], 'z', 6, 26)];
  const screwsAt = (x: number): Point[] => [0, 120, 240].map((a) => [x + 26 * Math.sin((a * Math.PI) / 180), 0, 26 * Math.cos((a * Math.PI) / 180)]);
  const tapped = [FIRST, SECOND].flatMap((x) =>
    screwsAt(x).flatMap((p) => [s.cylinder([p[0], WALL - 11, p[2]], 'y', 5, 12), s.cylinder([p[0], -WALL - 1, p[2]], 'y', 5, 12)]),
  );
  const lower = s.cut(
    s.fuse(s.box([-110, -WALL, -70], [110, WALL, 0]), s.box([-140, -WALL, -12], [140, WALL, 0]), s.box([-140, -WALL, -80], [140, WALL, -70])),
    s.box([-98, -48, -60], [98, 48, 1]),
    ...bores,
    ...flangeHoles,
    ...dowelHoles,
    ...tapped,
    ...[-125, 125].flatMap((x) => [-45, 45].map((y) => s.cylinder([x, y, -81], 'z', 11, 12))),
  );
  const upper = s.cut(
    s.fuse(s.box([-110, -WALL, 0], [110, WALL, 70]), s.box([-140, -WALL, 0], [140, WALL, 12])),
    s.box([-98, -48, -1], [98, 48, 60]),
    ...bores,
    ...flangeHoles,
    ...dowelHoles,
    ...tapped,
    s.cylinder([0, 0, 50], 'z', 16, 30),
  );
  add(part('Housing, lower', lower, '#7f9094'));
  add(part('Housing, upper', upper, '#8fa3a6'));

  for (const [x, gear, sense, name] of [
    [FIRST, 70, 1, 'input'],
    [SECOND, 100, -1, 'output'],
  ] as const) {
    const axis: Axis = sense > 0 ? 'y' : '-y';
    const shaft = s.cut(
      s.fuse(
        s.cylinder([0, 0, -60], 'z', 20, 160),
        s.cylinder([0, 0, -10], 'z', 26, 20),
        s.cylinder([0, 0, 10], 'z', 32, 6),
        s.cylinder([0, 0, 16], 'z', 26, 32),
      ),
      s.box([9.5, -3, -8], [14, 3, 8]),
      s.cut(s.cylinder([0, 0, 90], 'z', 22, 1.3), s.cylinder([0, 0, 89], 'z', 19, 4)),
    );
    const wheel = s.cut(ring(gear, 26, 20), s.box([0, -3, -1], [16.3, 3, 21]));
    add(part(`Shaft, ${name}`, shaft, '#c3c9cf'), [x, 0, 0], axis);
    add(part(`Gear, ${name}`, wheel, '#c98a3a'), [x, -10 * sense, 0], axis);
    add(part('Key 6 × 6 × 16', s.box([9.5, -3, -8], [15.8, 3, 8]), '#c3c9cf'), [x, 0, 0], axis);
    add(part('Spacer', ring(30, 20, 38), '#b9bcc0'), [x, -48 * sense, 0], axis);
    add(part('Bearing', ring(42, 20, 12), '#b0b5b8'), [x, 48 * sense, 0], axis);
    add(part('Bearing', ring(42, 20, 12), '#b0b5b8'), [x, -60 * sense, 0], axis);
    // Covers are made in place, so that their holes stand before the tapped ones.
    const cover = (from: number, bore: number) =>
      s.cut(
        s.cylinder([0, from, 0], 'y', 64, 6),
        ...(bore ? [s.cylinder([0, from - 1, 0], 'y', bore, 8)] : []),
        ...screwsAt(0).map((p) => s.cylinder([p[0], from - 1, p[2]], 'y', 5.5, 8)),
      );
    const [near, far] = sense > 0 ? [WALL, -WALL - 6] : [-WALL - 6, WALL];
    add(part(`Cover, open, ${name}`, cover(near, 30), '#8fa3a6'), [x, 0, 0]);
    add(part('Shaft seal', ring(30, 20, 5), '#4b4a48'), [x, WALL * sense, 0], axis);
    add(part(`Cover, closed, ${name}`, cover(far, 0), '#8fa3a6'), [x, 0, 0]);
    add(part('Circlip', ring(26, 19, 1.2), '#4b4a48'), [x, 90.05 * sense, 0], axis);
    const screw = part('Screw M5 × 14', s.fuse(s.cylinder([0, 0, -8], 'z', 5, 14), s.cylinder([0, 0, 6], 'z', 8.5, 5)), '#b9bcc0');
    for (const p of screwsAt(x)) {
      add(screw, [p[0], WALL, p[2]], 'y');
      add(screw, [p[0], -WALL, p[2]], '-y');
    }
  }
  const bolt = part('Hex bolt M8 × 40', s.fuse(s.cylinder([0, 0, -40], 'z', 8, 40), s.cylinder([0, 0, 0], 'z', 13, 5.5)), '#b9bcc0');
  const washer = part('Washer 8', ring(16, 8.4, 1.6), '#b9bcc0');
  const nut = part('Hex nut M8', ring(13, 8, 6.5), '#b9bcc0');
  for (const x of [-125, 125])
    for (const y of [-40, 0, 40]) {
      add(bolt, [x, y, 13.6]);
      add(washer, [x, y, 12]);
      add(nut, [x, y, -18.5]);
    }
  const foot = part('Foot bolt M10 × 30', s.fuse(s.cylinder([0, 0, -30], 'z', 10, 30), s.cylinder([0, 0, 0], 'z', 17, 7)), '#b9bcc0');
  for (const x of [-125, 125]) for (const y of [-45, 45]) add(foot, [x, y, -70]);
  const dowel = part('Dowel pin 6 × 20', s.cylinder([0, 0, -10], 'z', 6, 20), '#c3c9cf');
  add(dowel, [-132, 52, 0]);
  add(dowel, [132, -52, 0]);
  add(part('Oil plug', s.fuse(s.cylinder([0, 0, 56], 'z', 16, 16), s.cylinder([0, 0, 71.5], 'z', 22, 7)), '#b9bcc0'));
  add(part('Sealing ring', s.cut(s.cylinder([0, 0, 70], 'z', 24, 1.5), s.cylinder([0, 0, 69], 'z', 16, 4)), '#c98a3a'));
  return { name: 'Spur gearbox', properties: { Title: 'Spur gearbox' }, children };
}
