import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from 'vitest';

const src = resolve(dirname(fileURLToPath(import.meta.url)), '..');

function filesUnder(folder: string): string[] {
  return readdirSync(folder).flatMap((n) => {
    const path = join(folder, n);
    return statSync(path).isDirectory() ? filesUnder(path) : /\.(ts|svelte)$/.test(n) ? [path] : [];
  });
}

interface Arrow {
  readonly from: string;
  readonly to: string;
  readonly typeOnly: boolean;
}

/** Imports of a file: relative ones as paths below src, others as they are written. */
function arrowsOf(file: string): Arrow[] {
  const text = readFileSync(file, 'utf8');
  const from = relative(src, file);
  return [...text.matchAll(/^\s*(?:import|export)\s+(type\s+)?(?:[^'"]*?\sfrom\s+)?['"]([^'"]+)['"]/gm)].map((m) => {
    const spec = m[2]!
      .replace(/^\$lib\//, '/lib/')
      .replace(/^\$core\//, '/core/')
      .replace(/^\$elements\//, '/elements/')
      .replace(/^\$server$/, '/server/index.server.ts');
    const to = spec.startsWith('.') ? relative(src, resolve(dirname(file), spec)) : spec.startsWith('/') ? spec.slice(1) : spec;
    return { from, to, typeOnly: Boolean(m[1]) };
  });
}

const files = filesUnder(src);
const isTest = (f: string) => /\.test\.ts$|\/testing\//.test(f);
const arrows = files.filter((f) => !isTest(f)).flatMap(arrowsOf);
/** The room of a file. What the interface needs of a kind of element stands beside its rules: `face`. */
function room(path: string): string {
  const first = path.split('/')[0]!;
  if (first !== 'elements') return first;
  return /^elements\/(\w+\/face\/|faces?(\.ts)?$)/.test(path) ? 'lib' : 'core';
}
const ROOMS = ['core', 'kernel', 'viewer', 'formats', 'server', 'cli', 'lib', 'routes'];

/** Which rooms a room may import from. */
const ALLOWED: Readonly<Record<string, readonly string[]>> = {
  core: ['core'],
  kernel: ['core', 'kernel'],
  viewer: ['core', 'viewer'],
  formats: ['core', 'formats'],
  server: ['core', 'kernel', 'formats', 'server'],
  cli: ['core', 'kernel', 'formats', 'cli'],
  lib: ['core', 'lib'],
  routes: ['core', 'lib', 'routes', 'server'],
};

describe('imports point one way', () => {
  test('core ← kernel, formats ← server, cli ← routes; the interface beside', () => {
    const wrong = arrows.filter((a) => {
      const [from, to] = [room(a.from), room(a.to)];
      if (!ROOMS.includes(from) || !ROOMS.includes(to)) return false;
      if (ALLOWED[from]!.includes(to)) return from === 'routes' && to === 'server' && !/\+(server|page\.server|layout\.server)\.ts$/.test(a.from);
      // Helpers of routes that run on the server only say so in their name.
      return !(from === 'lib' && to === 'server' && a.from.endsWith('.server.ts'));
    });
    expect(wrong).toEqual([]);
  });

  test('core takes in nothing but small packages of plane geometry, PNG, QR codes, dates and separated text, and Zod where records are stated', () => {
    const bare = arrows.filter((a) => room(a.from) === 'core' && !ROOMS.includes(room(a.to)));
    expect([...new Set(bare.map((a) => a.to))].sort()).toEqual([
      'clipper2-ts',
      'date-fns',
      'earcut',
      'fast-png',
      'flatbush',
      'papaparse',
      'polyclip-ts',
      'qrcode-generator',
      'zod',
    ]);
    const stating = bare.filter((a) => a.to === 'zod' && !a.typeOnly).map((a) => a.from);
    expect(stating.filter((f) => !/\/(record|fields|schemas)\.ts$/.test(f))).toEqual([]);
  });

  test('pages enter the server by its door only', () => {
    const inside = arrows.filter((a) => (room(a.from) === 'routes' || room(a.from) === 'lib') && room(a.to) === 'server').map((a) => a.to);
    expect([...new Set(inside)]).toEqual(['server/index.server.ts']);
  });

  test('there is no cycle', () => {
    const graph = new Map<string, string[]>();
    for (const a of arrows)
      if (!a.typeOnly && ROOMS.includes(room(a.to))) graph.set(a.from, [...(graph.get(a.from) ?? []), /\.\w+$/.test(a.to) ? a.to : `${a.to}.ts`]);
    const state = new Map<string, 'open' | 'done'>();
    const cycles: string[] = [];
    const visit = (f: string, path: string[]): void => {
      if (state.get(f) === 'done') return;
      if (state.get(f) === 'open') {
        cycles.push([...path.slice(path.indexOf(f)), f].join(' → '));
        return;
      }
      state.set(f, 'open');
      for (const to of graph.get(f) ?? []) visit(to, [...path, f]);
      state.set(f, 'done');
    };
    for (const f of graph.keys()) visit(f, []);
    expect(cycles).toEqual([]);
  });
});
