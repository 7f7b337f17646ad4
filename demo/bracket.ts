import { hexBolt, hexNut, washer, washerThickness } from './fasteners.ts';
import type { Point, Solids } from './solids.ts';
import type { DemoNode, DemoPart } from './winch.ts';

/** Gauge bracket GB-7: our own invented small thing of bent plate. The wall is at x < 0, z up; mm. */

const PLATE = 3;
const SHELF = 100;
const S235 = ['S235', 7850] as const;
const STAINLESS = ['1.4404', 7980] as const;
const PA6 = ['PA6', 1140] as const;
const STEEL = ['Steel 8.8, zinc plated', 7850] as const;
const ZINC = '#b9bcc0';

const made = (drawing: string, description: string, more: Record<string, string> = {}) => ({
  Description: description,
  'Drawing number': drawing,
  Source: 'made',
  ...more,
});
const standard = (description: string) => ({ Description: description, Source: 'standard' });

export function gaugeBracket(s: Solids): { name: string; properties: Record<string, string>; children: DemoNode[] } {
  const near = (a: number, b: number) => Math.abs(a - b) < 0.1;
  const profile: Point[] = [
    [-30, -40, 0],
    [0, -40, 0],
    [0, 40, 0],
    [-30, 40, 0],
    [-30, 40 - PLATE, 0],
    [-PLATE, 40 - PLATE, 0],
    [-PLATE, -40 + PLATE, 0],
    [-30, -40 + PLATE, 0],
  ];
  let channel = s.prism(profile, [0, 0, 160]);
  channel = s.round(channel, 2 * PLATE, (p) => near(p[0], 0) && near(Math.abs(p[1]), 40) && near(p[2], 80));
  channel = s.round(channel, PLATE, (p) => near(p[0], -PLATE) && near(Math.abs(p[1]), 40 - PLATE) && near(p[2], 80));
  channel = s.cut(
    channel,
    ...[-20, 20].map((y) => s.cylinder([-10, y, 30], 'x', 9, 20)),
    ...[-15, 15].map((y) => s.cylinder([-10, y, 122], 'x', 9, 20)),
    s.cylinder([-18, -50, 80], 'y', 11, 100),
  );
  let shelf = s.prism(
    [
      [0, -30, SHELF],
      [90, -30, SHELF],
      [90, -30, SHELF + PLATE],
      [PLATE, -30, SHELF + PLATE],
      [PLATE, -30, 140],
      [0, -30, 140],
    ],
    [0, 60, 0],
  );
  shelf = s.round(shelf, 2 * PLATE, (p) => near(p[0], 0) && near(p[2], SHELF) && near(p[1], 0));
  shelf = s.round(shelf, PLATE, (p) => near(p[0], PLATE) && near(p[2], SHELF + PLATE) && near(p[1], 0));
  shelf = s.round(shelf, 12, (p) => near(p[0], 90) && near(Math.abs(p[1]), 30));
  shelf = s.cut(shelf, ...[-15, 15].map((y) => s.cylinder([-10, y, 122], 'x', 9, 20)), s.cylinder([60, 0, SHELF - 5], 'z', 16.5, 20));
  const pin = s.turned([
    [0, 0],
    [12, 0],
    [12, 4],
    [8, 4],
    [8, 53],
    [7, 54],
    [0, 54],
  ]);
  const sleeve = s.turned([
    [8.2, 0],
    [17, 0],
    [17, 6],
    [14, 6],
    [14, 24],
    [8.2, 24],
  ]);
  const parts: Record<'channel' | 'shelf' | 'pin' | 'sleeve' | 'bolt' | 'washer' | 'nut', DemoPart> = {
    channel: {
      name: 'Wall channel',
      shape: channel,
      color: '#8fa3a6',
      material: S235,
      properties: made('GB-7-01', 'Channel, wall', { Finish: 'hot-dip galvanised' }),
    },
    shelf: {
      name: 'Shelf angle',
      shape: shelf,
      color: '#8fa3a6',
      material: S235,
      properties: made('GB-7-02', 'Angle, shelf', { Finish: 'hot-dip galvanised' }),
    },
    pin: { name: 'Gauge post', shape: pin, color: '#c3c9cf', material: STAINLESS, properties: made('GB-7-03', 'Post, gauge') },
    sleeve: { name: 'Gauge sleeve', shape: sleeve, color: '#4b4a48', material: PA6, properties: made('GB-7-04', 'Sleeve, gauge') },
    bolt: { name: 'Hex bolt M8x20', shape: hexBolt(s, 8, 20), color: ZINC, material: STEEL, properties: standard('Bolt, hex head, ISO 4017 M8 × 20') },
    washer: { name: 'Washer 8', shape: washer(s, 8), color: ZINC, material: STEEL, properties: standard('Washer, plain, ISO 7089 8') },
    nut: { name: 'Hex nut M8', shape: hexNut(s, 8), color: ZINC, material: STEEL, properties: standard('Nut, hex, ISO 4032 M8') },
  };
  const children: DemoNode[] = [
    { part: parts.channel, at: [0, 0, 0] },
    { part: parts.shelf, at: [0, 0, 0] },
    { part: parts.pin, at: [60, 0, SHELF - 4] },
    { part: parts.sleeve, at: [60, 0, SHELF + PLATE] },
    ...[-15, 15].flatMap((y): DemoNode[] => [
      { part: parts.washer, at: [PLATE, y, 122], axis: 'x' },
      { part: parts.bolt, at: [PLATE + washerThickness(8), y, 122], axis: 'x' },
      { part: parts.nut, at: [-PLATE, y, 122], axis: '-x' },
    ]),
  ];
  return {
    name: 'Gauge bracket',
    properties: { Title: 'Gauge bracket', 'Drawing number': 'GB-7-00', Revision: 'A', Owner: 'Tidewater Field Instruments' },
    children,
  };
}
