import { describe, expect, test } from 'vitest';
import { isFastener, isHolding, isThreaded, roleByName, roleOf } from './role.ts';

// Names as lists of machines have them; what each part is, is common practice.
describe('what a name says that a part is', () => {
  test.each([
    ['Hex head bolt M8 × 25', 'screw'],
    ['Bolt, hexagon', 'screw'],
    ['hex_bolt_M8', 'screw'],
    ['HexNut', 'nut'],
    ['Nuts', 'nut'],
    ['Washer for bolt M8', 'washer'],
    ['Sechskantschraube M8', 'screw'],
    ['Unterlegscheibe', 'washer'],
    ['Zylinderstift 6 × 20', 'pin'],
    ['Passfeder A8', 'key'],
    ['Pin, sheave', 'pin'],
    ['Pawl spring pin', 'pin'],
    ['Shaft key', 'key'],
    ['Key shaft', 'shaft'],
    ['Tie rod', 'shaft'],
    ['Threaded rod M10', 'screw'],
    ['Lead screw', 'shaft'],
    ['Retaining ring 20', 'circlip'],
    ['Gusset', 'rib'],
  ] as const)('%s: %s', (name, role) => expect(roleByName(name)).toBe(role));

  test.each([
    'Bolt plate', 'Key plate', 'Pin block', 'Spindle nut', 'Gland nut', 'Nut block', 'Lead nut', 'Ball bearing', 'Ball valve', 'Shaft seal', 'O-ring', 'Piston ring',
    'Screw cap', 'Connecting rod', 'Rod bearing', 'Bolt cover', 'Washer housing', 'Lagerbock', 'Gleitlagerbuchse',
  ])('%s is a body', (name) => expect(roleByName(name)).toBe('body')); // prettier-ignore

  test.each(['Part 12', 'SOLID', 'Grundkörper', ''])('%s says nothing', (name) => expect(roleByName(name)).toBeUndefined());
});

describe('by names and shape together', () => {
  test('a name goes before a shape, a shape stands for a name that says nothing', () => {
    expect(roleOf({ name: 'SOLID' }, { name: 'Part 7', looksLike: 'nut' })).toBe('nut');
    expect(roleOf({ name: 'SOLID' }, { name: 'Gland nut', looksLike: 'nut' })).toBe('body');
    expect(roleOf({ name: 'Bolt 3' }, { name: 'Part 7' })).toBe('screw');
    expect(roleOf({ name: 'x' }, { name: 'y', looksLike: 'bearing ring' })).toBe('body');
  });
  test('what holds, what carries, what has a thread', () => {
    const is = (name: string) => [isFastener({ name }, { name }), isHolding({ name }, { name }), isThreaded({ name }, { name })];
    expect(is('Bolt M8')).toEqual([true, true, true]);
    expect(is('Washer 8')).toEqual([true, true, false]);
    expect(is('Sheave pin')).toEqual([true, false, false]);
    expect(is('Split pin')).toEqual([true, true, false]);
    expect(is('Spindle nut')).toEqual([false, false, true]);
    expect(is('Base plate')).toEqual([false, false, false]);
  });
});
