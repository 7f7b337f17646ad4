import { circlip, hexBolt, hexNut, washer } from './fasteners.ts';
import type { Axis, Point, Solid, Solids } from './solids.ts';

/** Shoreline sampling winch SW-40: our own invented machine. Drum axis along x, boom along +y, z up; mm. */
export interface DemoPart {
  readonly name: string;
  readonly shape: Solid;
  readonly color: string;
  readonly material?: readonly [name: string, densityKgM3: number];
  readonly properties: Readonly<Record<string, string>>;
}

export interface DemoNode {
  readonly part?: DemoPart;
  readonly group?: { readonly name: string; readonly properties: Readonly<Record<string, string>>; readonly children: readonly DemoNode[] };
  readonly at: Point;
  readonly axis?: Axis;
}

const S355 = ['S355', 7850] as const;
const C45 = ['C45', 7850] as const;
const STAINLESS = ['1.4404', 7980] as const;
const ALUMINIUM = ['EN AW-6082', 2700] as const;
const PA6 = ['PA6', 1140] as const;
const STEEL = ['Steel 8.8, zinc plated', 7850] as const;

const STEEL_GREY = '#8fa3a6';
const ZINC = '#b9bcc0';
const ALU = '#d6d9dc';
const BRIGHT = '#c3c9cf';
const OCHRE = '#c98a3a';
const BLACK = '#4b4a48';

const made = (drawing: string, description: string, more: Record<string, string> = {}) => ({
  Description: description,
  'Drawing number': drawing,
  Source: 'made',
  ...more,
});
const standard = (description: string) => ({ Description: description, Source: 'standard' });
const bought = (description: string, supplier = '', number = '') => ({
  Description: description,
  Source: 'bought',
  ...(supplier ? { Supplier: supplier } : {}),
  ...(number ? { 'Supplier number': number } : {}),
});

/** Height of the drum's axis and half the distance of the frames' inner faces. */
const AXIS = 130;
const INNER = 80;
const PLATE = 6;

/** @param revision 2 moves, reshapes, renames, adds, removes and counts differently */
export function winch(s: Solids, revision: 1 | 2): { name: string; properties: Record<string, string>; children: DemoNode[] } {
  const two = revision === 2;
  const boomLength = two ? 560 : 500;
  const m8 = (name: string, length: number): DemoPart => ({
    name,
    shape: hexBolt(s, 8, length),
    color: ZINC,
    material: STEEL,
    properties: standard(`Bolt, hex head, ISO 4017 M8 × ${length}`),
  });
  const bolt = m8('Hex bolt M8x25', 25);
  const nut8: DemoPart = { name: 'Hex nut M8', shape: hexNut(s, 8), color: ZINC, material: STEEL, properties: standard('Nut, hex, ISO 4032 M8') };
  const washer8: DemoPart = { name: 'Washer 8', shape: washer(s, 8), color: ZINC, material: STEEL, properties: standard('Washer, plain, ISO 7089 8') };
  const nut10: DemoPart = { name: 'Hex nut M10', shape: hexNut(s, 10), color: ZINC, material: STEEL, properties: standard('Nut, hex, ISO 4032 M10') };
  const washer10: DemoPart = { name: 'Washer 10', shape: washer(s, 10), color: ZINC, material: STEEL, properties: standard('Washer, plain, ISO 7089 10') };

  const children: DemoNode[] = [];
  const add = (part: DemoPart, at: Point, axis?: Axis) => children.push({ part, at, ...(axis ? { axis } : {}) });

  // Base plate with rounded corners and all its holes.
  const holes: [number, number, number][] = [
    ...[-110, 110].flatMap((x) => [-60, 60].map((y): [number, number, number] => [x, y, 9])),
    ...[-43, 43].flatMap((x) => [-55, 105].map((y): [number, number, number] => [x, y, 9])),
    ...[-135, 135].flatMap((x) => [-105, 125].map((y): [number, number, number] => [x, y, 11])),
  ];
  let base = s.round(
    s.box([-150, -120, 0], [150, 140, 10]),
    15,
    (p) => Math.abs(Math.abs(p[0]) - 150) < 1 && (Math.abs(p[1] + 120) < 1 || Math.abs(p[1] - 140) < 1),
  );
  base = s.cut(base, ...holes.map(([x, y, d]) => s.cylinder([x, y, -1], 'z', d, 12)));
  add(
    { name: 'Base plate', shape: base, color: STEEL_GREY, material: S355, properties: made('SW-40-01', 'Base plate', { Finish: 'hot-dip galvanised' }) },
    [0, 0, 0],
  );

  // Side frames: bent plate with a foot, inside radius equal to the plate.
  const frame = (pawl: boolean) => {
    const profile: Point[] = [
      [INNER, -80, 10],
      [INNER + 46, -80, 10],
      [INNER + 46, -80, 10 + PLATE],
      [INNER + PLATE, -80, 10 + PLATE],
      [INNER + PLATE, -80, 205],
      [INNER, -80, 205],
    ];
    let f = s.prism(profile, [0, 160, 0]);
    f = s.round(f, 2 * PLATE, (p) => Math.abs(p[0] - INNER) < 0.1 && Math.abs(p[2] - 10) < 0.1 && Math.abs(p[1]) < 1);
    f = s.round(f, PLATE, (p) => Math.abs(p[0] - INNER - PLATE) < 0.1 && Math.abs(p[2] - 10 - PLATE) < 0.1 && Math.abs(p[1]) < 1);
    f = s.round(f, 30, (p) => Math.abs(p[2] - 205) < 0.1 && Math.abs(Math.abs(p[1]) - 80) < 0.1);
    const through = (y: number, z: number, d: number) => s.cylinder([INNER - 5, y, z], 'x', d, PLATE + 10);
    return s.cut(
      f,
      through(0, AXIS, 30),
      through(-35, AXIS, 9),
      through(35, AXIS, 9),
      through(-66, 184, 11),
      through(70, 80, 11),
      s.cylinder([110, -60, 5], 'z', 9, 20),
      s.cylinder([110, 60, 5], 'z', 9, 20),
      ...(pawl ? [through(56, 176, 10)] : []),
    );
  };
  add(
    {
      name: 'Side frame left',
      shape: s.mirroredX(frame(false)),
      color: STEEL_GREY,
      material: S355,
      properties: made('SW-40-02', 'Side frame, left', { Finish: 'hot-dip galvanised' }),
    },
    [0, 0, 0],
  );
  add(
    {
      name: 'Side frame right',
      shape: frame(true),
      color: STEEL_GREY,
      material: S355,
      properties: made('SW-40-03', 'Side frame, right', { Finish: 'hot-dip galvanised' }),
    },
    [0, 0, 0],
  );
  for (const x of [-110, 110])
    for (const y of [-60, 60]) {
      add(washer8, [x, y, 16]);
      add(bolt, [x, y, 17.6]);
      add(nut8, [x, y, 0], '-z');
    }

  children.push({ group: { name: 'Drum assembly', properties: { 'Drawing number': 'SW-40-10' }, children: drum(s, two) }, at: [0, 0, AXIS], axis: 'x' });

  // Flange bearings outside the frames.
  let housing = s.round(s.box([-18, -48, 0], [18, 48, 10]), 15, (p) => Math.abs(Math.abs(p[0]) - 18) < 0.1 && Math.abs(Math.abs(p[1]) - 48) < 0.1);
  housing = s.fuse(housing, s.cylinder([0, 0, 0], 'z', 44, 12));
  housing = s.cut(housing, s.cylinder([0, 0, -1], 'z', 20, 20), s.cylinder([0, -35, -1], 'z', 9, 20), s.cylinder([0, 35, -1], 'z', 9, 20));
  const bearing: DemoPart = {
    name: 'Flange bearing',
    shape: housing,
    color: BLACK,
    properties: bought('Bearing, flanged, 20 mm', two ? 'Harbour Bearings' : ''),
  };
  for (const side of [-1, 1] as const) {
    const out: Axis = side > 0 ? 'x' : '-x';
    const back: Axis = side > 0 ? '-x' : 'x';
    add(bearing, [side * (INNER + PLATE), 0, AXIS], out);
    for (const y of [-35, 35]) {
      add(washer8, [side * (INNER + PLATE + 10), y, AXIS], out);
      add(bolt, [side * (INNER + PLATE + 11.6), y, AXIS], out);
      add(nut8, [side * INNER, y, AXIS], back);
    }
  }

  // Ratchet, pawl and spring on the right.
  const teeth = 18;
  const outline = Array.from({ length: teeth }, (_, i): Point[] => {
    const a = (i * 2 * Math.PI) / teeth;
    return [
      [45 * Math.cos(a), 45 * Math.sin(a), 0],
      [38 * Math.cos(a + 0.02), 38 * Math.sin(a + 0.02), 0],
    ];
  }).flat();
  let ratchet = s.cut(s.prism(outline, [0, 0, 10]), s.cylinder([0, 0, -1], 'z', 20, 12));
  ratchet = s.cut(ratchet, s.box([0, -3, -1], [12.8, 3, 12]));
  add({ name: 'Ratchet wheel', shape: ratchet, color: OCHRE, material: C45, properties: made('SW-40-04', 'Ratchet wheel, 18 teeth') }, [105, 0, AXIS], 'x');
  const key: DemoPart = {
    name: 'Key 6x6x10',
    shape: s.round(s.box([-5, -3, 0], [5, 3, 6]), 2.9, (p) => Math.abs(Math.abs(p[0]) - 5) < 0.1 && Math.abs(Math.abs(p[1]) - 3) < 0.1),
    color: BRIGHT,
    material: C45,
    properties: standard('Key, parallel, DIN 6885 A 6 × 6 × 10'),
  };
  const pawlPoints: Point[] = [
    [10, -9, 0],
    [10, 9, 0],
    [-8, 13, 0],
    [-37, 15, 0],
    [-36, 10, 0],
    [-10, -8, 0],
  ];
  let pawl = s.prism(pawlPoints, [0, 0, 8]);
  pawl = s.round(pawl, 6, (p) => p[0] > 9.9 && Math.abs(Math.abs(p[1]) - 9) < 0.1);
  pawl = s.cut(pawl, s.cylinder([0, 0, -1], 'z', 10, 10));
  add({ name: 'Pawl', shape: pawl, color: OCHRE, material: C45, properties: made('', 'Pawl') }, [106, 56, 176], 'x');
  add(
    {
      name: 'Pawl pin',
      shape: s.turned([
        [0, 0],
        [5, 0],
        [5, 34],
        [8, 34],
        [8, 38],
        [0, 38],
      ]),
      color: BRIGHT,
      material: STAINLESS,
      properties: made('SW-40-06', 'Pin for pawl'),
    },
    [80, 56, 176],
    'x',
  );
  add(
    { name: 'Pawl spring', shape: s.coil(14, 1.5, 4.2, 4), color: BRIGHT, properties: bought('Spring, coil, 14 × 1.5', 'Reed Springs', 'RS-1417') },
    [86.8, 56, 176],
    'x',
  );

  // Spacer and crank on the end of the shaft.
  add(
    {
      name: 'Spacer',
      shape: s.turned([
        [10, 0],
        [15, 0],
        [15, 7],
        [10, 7],
      ]),
      color: ALU,
      material: ALUMINIUM,
      properties: made('SW-40-07', 'Spacer'),
    },
    [115, 0, AXIS],
    'x',
  );
  add(key, [110, 0, AXIS + 6.5]);
  children.push({ group: { name: 'Crank assembly', properties: { 'Drawing number': 'SW-40-20' }, children: crank(s, two) }, at: [122, 0, AXIS] });
  const endWasher: DemoPart = {
    name: 'End washer',
    shape: s.turned([
      [4.2, 0],
      [14, 0],
      [14, 3],
      [4.2, 3],
    ]),
    color: ZINC,
    material: S355,
    properties: made('SW-40-08', 'Washer, end'),
  };
  // Revision 2 does without the end washer.
  if (!two) add(endWasher, [134, 0, AXIS], 'x');
  add(m8('Hex bolt M8x16', 16), [two ? 134 : 137, 0, AXIS], 'x');

  // Tie rods across.
  const tie = s.fuse(
    s.turned([
      [0, -98],
      [4.5, -98],
      [5, -97],
      [5, 97],
      [4.5, 98],
      [0, 98],
    ]),
    s.cylinder([0, 0, -INNER], 'z', 14, 2 * INNER),
  );
  const tieRod: DemoPart = { name: 'Tie rod', shape: tie, color: BRIGHT, material: STAINLESS, properties: made('SW-40-09', 'Tie rod, M10') };
  for (const [y, z] of [
    [-66, 184],
    [70, 80],
  ] as const) {
    add(tieRod, [0, y, z], 'x');
    for (const side of [-1, 1] as const) {
      // Revision 2 has washers on the right only.
      const washer = !two || side > 0;
      if (washer) add(washer10, [side * (INNER + PLATE), y, z], side > 0 ? 'x' : '-x');
      add(nut10, [side * (INNER + PLATE + (washer ? 2 : 0)), y, z], side > 0 ? 'x' : '-x');
    }
  }

  children.push({ group: { name: 'Boom assembly', properties: { 'Drawing number': 'SW-40-30' }, children: boom(s, boomLength, two) }, at: [0, 0, 0] });
  for (const x of [-43, 43])
    for (const y of [-55, 105]) {
      add(washer8, [x, y, 16]);
      add(bolt, [x, y, 17.6]);
      add(nut8, [x, y, 0], '-z');
    }
  if (two)
    add(
      {
        name: 'Name plate',
        shape: s.round(s.box([-30, 0, -15], [30, 1, 15]), 4, (p) => Math.abs(Math.abs(p[0]) - 30) < 0.1 && Math.abs(Math.abs(p[2]) - 15) < 0.1),
        color: ALU,
        material: ALUMINIUM,
        properties: made('SW-40-12', 'Name plate'),
      },
      [-86.5, -40, 160],
      'y',
    );
  return {
    name: 'Shoreline sampling winch',
    properties: { Title: 'Shoreline sampling winch', 'Drawing number': 'SW-40-00', Revision: two ? 'B' : 'A', Owner: 'Tidewater Field Instruments' },
    children,
  };
}

/** Along z about the drum's axis; x of this frame is up in the machine. */
function drum(s: Solids, two: boolean): DemoNode[] {
  const shaftShape = s.cut(
    s.chamfer(
      s.turned([
        [0, -102],
        [10, -102],
        [10, -72],
        [12.5, -72],
        [12.5, 72],
        [10, 72],
        [10, 134],
        [0, 134],
      ]),
      1,
      (p) => Math.abs(p[2] + 102) < 0.1 || Math.abs(p[2] - 134) < 0.1,
    ),
    s.cylinder([0, 0, 114], 'z', 6.8, 30),
    s.box([9, -3, -10], [14, 3, 10]),
    s.box([6.5, -3, 105], [11, 3, 115]),
  );
  const shaft: DemoPart = { name: 'Drum shaft', shape: shaftShape, color: BRIGHT, material: STAINLESS, properties: made('SW-40-11', 'Shaft, drum') };
  const tube: DemoPart = {
    name: 'Drum tube',
    shape: s.turned([
      [40, -62],
      [45, -62],
      [45, 62],
      [40, 62],
    ]),
    color: ALU,
    material: ALUMINIUM,
    properties: made('SW-40-13', 'Tube, drum'),
  };
  const flangeShape = s.cut(
    s.round(
      s.turned([
        [12.5, 0],
        [75, 0],
        [75, 8],
        [12.5, 8],
      ]),
      2,
      (p) => Math.hypot(p[0], p[1]) > 74,
    ),
    ...[0, 60, 120, 180, 240, 300].map((a) => s.cylinder([58 * Math.cos((a * Math.PI) / 180), 58 * Math.sin((a * Math.PI) / 180), -1], 'z', two ? 14 : 18, 10)),
  );
  const flange: DemoPart = { name: 'Drum flange', shape: flangeShape, color: ALU, material: ALUMINIUM, properties: made('SW-40-14', 'Flange, drum') };
  const sleeve: DemoPart = {
    name: 'Core sleeve',
    shape: s.cut(
      s.turned([
        [12.5, -55],
        [39.5, -55],
        [39.5, 55],
        [12.5, 55],
      ]),
      // The slot is open to one end: the sleeve is pushed over the key.
      s.box([10, -3, -10.2], [15.2, 3, 56]),
    ),
    color: '#e8e2d0',
    material: PA6,
    properties: made('SW-40-15', 'Sleeve, core'),
  };
  const key = s.moved(
    s.round(s.box([-3, -3, -10], [3, 3, 10]), 2.9, (p) => Math.abs(Math.abs(p[1]) - 3) < 0.1 && Math.abs(Math.abs(p[2]) - 10) < 0.1),
    [12, 0, 0],
  );
  const inner: DemoPart = { name: 'Key for sleeve', shape: key, color: BRIGHT, material: C45, properties: standard('Key, parallel, DIN 6885 A 6 × 6 × 20') };
  return [
    { part: shaft, at: [0, 0, 0] },
    { part: inner, at: [0, 0, 0] },
    { part: sleeve, at: [0, 0, 0] },
    { part: tube, at: [0, 0, 0] },
    { part: flange, at: [0, 0, 62] },
    { part: flange, at: [0, 0, -62], axis: '-z' },
  ];
}

/** x outward along the shaft from the inner face of the arm, arm along -y. */
function crank(s: Solids, two: boolean): DemoNode[] {
  const reach = two ? 160 : 140;
  let arm = s.fuse(s.box([0, -reach, -14], [12, 0, 14]), s.cylinder([0, 0, 0], 'x', 40, 12), s.cylinder([0, -reach, 0], 'x', 28, 12));
  arm = s.cut(arm, s.cylinder([-1, 0, 0], 'x', 20, 14), s.cylinder([-1, -reach, 0], 'x', 10, 14));
  const grip = s.round(
    s.turned([
      [5.2, 0],
      [11, 0],
      [15, 45],
      [12, 88],
      [5.2, 88],
    ]),
    3,
    (p) => p[2] > 87 && Math.hypot(p[0], p[1]) > 11,
  );
  return [
    {
      part: { name: 'Crank arm', shape: arm, color: STEEL_GREY, material: S355, properties: made('SW-40-21', 'Arm, crank', { Finish: 'hot-dip galvanised' }) },
      at: [0, 0, 0],
    },
    {
      part: {
        name: 'Grip axle',
        shape: s.turned([
          [0, -6],
          [4.2, -6],
          [5, -5.2],
          [5, 104],
          [9, 104],
          [9, 108],
          [0, 108],
        ]),
        color: BRIGHT,
        material: STAINLESS,
        properties: made('SW-40-22', 'Axle, grip'),
      },
      at: [0, -reach, 0],
      axis: 'x',
    },
    {
      part: { name: two ? 'Handle grip' : 'Crank grip', shape: grip, color: BLACK, material: PA6, properties: bought('Grip, crank', 'Northshore Handles') },
      at: [14, -reach, 0],
      axis: 'x',
    },
    {
      part: { name: 'Circlip 10', shape: circlip(s, 10), color: BRIGHT, material: ['Spring steel', 7850], properties: standard('Circlip, shaft, DIN 471 10') },
      at: [-1.2, -reach, 0],
      axis: 'x',
    },
  ];
}

/** Boom along +y on saddles on the base plate. */
function boom(s: Solids, length: number, two: boolean): DemoNode[] {
  const z = 40;
  const tube = s.cut(s.cylinder([0, -80, z], 'y', 48.3, length), s.cylinder([0, -81, z], 'y', 41.9, length + 2));
  let saddle = s.box([-55, 0, 10], [55, 30, 70]);
  saddle = s.cut(saddle, s.box([-60, -1, 16], [-31, 31, 80]), s.box([31, -1, 16], [60, 31, 80]), s.cylinder([0, -1, z], 'y', 48.3, 32));
  saddle = s.round(saddle, 8, (p) => Math.abs(p[2] - 70) < 0.1 && Math.abs(Math.abs(p[0]) - 31) < 0.1);
  saddle = s.cut(saddle, s.cylinder([-43, 15, 0], 'z', 9, 30), s.cylinder([43, 15, 0], 'z', 9, 30));
  const end = length - 80;
  let fork = s.fuse(
    s.cylinder([0, end - 35, z], 'y', 41.5, 36),
    s.box([-21, end, z - 25], [21, end + 6, z + 25]),
    s.box([-21, end + 5, z - 20], [-15, end + 70, z + 20]),
    s.box([15, end + 5, z - 20], [21, end + 70, z + 20]),
  );
  fork = s.round(fork, 15, (p) => Math.abs(p[1] - end - 70) < 0.1 && Math.abs(Math.abs(p[2] - z) - 20) < 0.1);
  fork = s.cut(fork, s.cylinder([-30, end + 48, z], 'x', 12, 60));
  const sheave = s.turned([
    [6, -11],
    [14, -11],
    [14, -9],
    [30, -9],
    [30, -6],
    [23, -1],
    [23, 1],
    [30, 6],
    [30, 9],
    [14, 9],
    [14, 11],
    [6, 11],
  ]);
  const saddlePart: DemoPart = { name: 'Boom saddle', shape: saddle, color: STEEL_GREY, material: S355, properties: made('SW-40-32', 'Saddle, boom') };
  return [
    {
      part: { name: 'Boom tube', shape: tube, color: ALU, material: ALUMINIUM, properties: made('SW-40-31', `Tube, boom, 48.3 × 3.2, ${length} long`) },
      at: [0, 0, 0],
    },
    { part: saddlePart, at: [0, -70, 0] },
    { part: saddlePart, at: [0, 90, 0] },
    { part: { name: 'Sheave fork', shape: fork, color: STEEL_GREY, material: S355, properties: made('SW-40-33', 'Fork, sheave') }, at: [0, 0, 0] },
    {
      part: { name: 'Sheave', shape: sheave, color: OCHRE, material: PA6, properties: made(two ? 'SW-40-34' : '', 'Sheave') },
      at: [0, end + 48, z],
      axis: 'x',
    },
    {
      part: {
        name: 'Sheave pin',
        shape: s.turned([
          [0, -26],
          [8, -26],
          [8, -22],
          [6, -22],
          [6, 25],
          [0, 25],
        ]),
        color: BRIGHT,
        material: STAINLESS,
        properties: made('SW-40-35', 'Pin, sheave'),
      },
      at: [0, end + 48, z],
      axis: 'x',
    },
    {
      part: { name: 'Circlip 12', shape: circlip(s, 12), color: BRIGHT, material: ['Spring steel', 7850], properties: standard('Circlip, shaft, DIN 471 12') },
      at: [22, end + 48, z],
      axis: 'x',
    },
  ];
}
