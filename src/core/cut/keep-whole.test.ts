import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { assemblyOf, box, cylinder, sphere } from '../testing/shapes.ts';
import { suggestForCut, suggestKeptWhole } from './keep-whole.ts';

// ISO 128-50 (from memory): shafts, fasteners, keys, pins, balls and ribs are not sectioned lengthwise; plates, blocks and bushes always are.
const { assembly, geometries } = assemblyOf([
  { name: 'Housing', geometry: box([-40, -40, -40], [40, 40, 40]) },
  { name: 'Drive', geometry: cylinder(8, 60), at: [0, 0, -30] },
  { name: 'Tube', geometry: cylinder(12, 60, 32, 10), at: [0, 0, -30] },
  { name: 'Bearing element', geometry: sphere(5), at: [20, 0, 0] },
  { name: 'Stiffener', geometry: box([-30, -1.5, -30], [30, 1.5, 30]) },
  { name: 'Cover', geometry: box([-30, -30, 20], [30, 30, 23]) },
  { name: 'Hexagon bolt', geometry: cylinder(3, 20), at: [10, 0, 0] },
  { name: 'Pin far away', geometry: cylinder(3, 20), at: [10, 100, 0] },
]);
const kept = (normal: readonly [number, number, number], d: number) =>
  suggestKeptWhole(assembly, componentsOf(assembly), sceneOf(assembly, geometries), { normal, d }).map((s) => ({
    name: assembly.parts[s.component]!.name,
    why: s.why,
  }));

describe('what a section keeps whole', () => {
  test('shaft, ball, web and bolt along the cut; housing, tube and cover are cut; what it does not meet is not named', () => {
    expect(kept([0, -1, 0], 0).map((k) => k.name)).toEqual(['Drive', 'Bearing element', 'Stiffener', 'Hexagon bolt']);
  });
  test('every suggestion says why', () => {
    const why = Object.fromEntries(kept([0, -1, 0], 0).map((k) => [k.name, k.why]));
    expect(why['Drive']).toMatch(/axis lies in the cut/);
    expect(why['Bearing element']).toMatch(/ball/i);
    expect(why['Stiffener']).toMatch(/rib/);
    expect(why['Hexagon bolt']).toMatch(/fastener/);
  });
  test('across, the shaft and the web are cut', () => {
    expect(kept([0, 0, 1], 1).map((k) => k.name)).not.toContain('Drive');
    expect(kept([1, 0, 0], 0).map((k) => k.name)).not.toContain('Stiffener');
  });
  test('a shaft parallel to the cut but off it is cut like anything else, a bolt keeps its name', () => {
    // The shaft of radius 8 lies along z through (0, 0); a plane 5 mm off its axis meets it.
    expect(kept([0, -1, 0], 5).map((k) => k.name)).not.toContain('Drive');
    expect(kept([0, -1, 0], -5).map((k) => k.name)).not.toContain('Drive');
    expect(kept([0, -1, 0], 2.9).map((k) => k.name)).toContain('Hexagon bolt');
  });
  test('a stepped cut asks each part by the step it stands in', () => {
    const parts = componentsOf(assembly);
    const bodies = sceneOf(assembly, geometries);
    const names = (steps: readonly { from: number; d: number }[]) =>
      suggestForCut(assembly, parts, bodies, { normal: [0, -1, 0], d: 0, shape: { kind: 'stepped', across: [1, 0, 0], steps } }).map(
        (s) => assembly.parts[s.component]!.name,
      );
    // Along y = 0 up to x = 15, from there along y = 30: the ball at x = 20 is not met there.
    expect(
      names([
        { from: -100, d: 0 },
        { from: 15, d: -30 },
      ]),
    ).toEqual(['Drive', 'Stiffener', 'Hexagon bolt']);
    expect(
      names([
        { from: -100, d: -30 },
        { from: 15, d: 0 },
      ]),
    ).toEqual(['Bearing element']);
  });
});

describe('what a name like a fastener’s does not keep whole', () => {
  // A base plate that lies flat, bolted; a screw jack's nut; a gland with its nut, seals beside a shaft.
  const spindle = { name: 'Spindle', geometry: cylinder(8, 120), at: [0, 0, -60] } as const;
  const machine = assemblyOf([
    spindle,
    { name: 'Base plate', geometry: box([-60, -40, -70], [60, 40, -60]) },
    { name: 'Bolt plate', geometry: box([-60, -40, -58], [60, 40, -50]) },
    { name: 'Foundation bolt M10', geometry: cylinder(5, 40), at: [40, 0, -90] },
    { name: 'Spindle nut', geometry: cylinder(16, 30, 32, 7), at: [0, 0, -15] },
    { name: 'Gland nut', geometry: cylinder(18, 14, 32, 8.5), at: [0, 0, 20] },
    { name: 'Nut block', geometry: box([-20, -20, -48], [20, 20, -20]) },
    { name: 'Seal ring', geometry: cylinder(12, 4, 32, 8), at: [0, 0, 40] },
    { name: 'O-ring', geometry: cylinder(11, 3, 32, 8), at: [0, 0, 46] },
    { name: 'Hexagon nut M16', geometry: cylinder(12, 13, 32, 7), at: [0, 0, 50] },
    { name: 'Lock washer', geometry: cylinder(12, 3, 32, 8), at: [0, 0, 47] },
    { name: 'Retaining ring', geometry: cylinder(10, 1.5, 32, 8), at: [0, 0, 55] },
    { name: 'Nut', geometry: cylinder(14, 60, 32, 8), at: [0, 0, -55] },
    { name: 'Hollow shaft', geometry: cylinder(20, 90, 32, 17), at: [0, 0, -45] },
    { name: 'Solid', geometry: cylinder(30, 6), at: [0, 0, 30] },
  ]);
  const names = (normal: readonly [number, number, number], d: number) =>
    suggestKeptWhole(machine.assembly, componentsOf(machine.assembly), sceneOf(machine.assembly, machine.geometries), { normal, d }).map(
      (s) => machine.assembly.parts[s.component]!.name,
    );
  test('bodies on a thread, glands, seals, hollow shafts and discs are cut along the axis', () => {
    expect(names([0, -1, 0], 0)).toEqual(['Spindle', 'Foundation bolt M10', 'Hexagon nut M16', 'Lock washer', 'Retaining ring']);
  });
  test('a level cut through plates hatches the plates and the bolts across their axis', () => {
    expect(names([0, 0, 1], -65)).toEqual([]);
    expect(names([0, 0, 1], -54)).toEqual([]);
  });
});
