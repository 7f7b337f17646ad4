import { describe, expect, it } from 'vitest';
import type { DisplayItem } from '$core/picture/display-list';
import { inOnePath } from './in-one-path';

const DASHED = [3, 1] as const;
const stroke = (d: string, width: number, dash?: readonly number[]): DisplayItem => ({ kind: 'stroke', d, width, ...(dash ? { dash } : {}) });
const fill: DisplayItem = { kind: 'fill', d: 'M0 0', color: 'red' };

describe('strokes in one path', () => {
  it('joins neighbours of one pen, and nothing else', () => {
    const items = [stroke('A', 0.25, DASHED), stroke('B', 0.25, DASHED), stroke('C', 0.25), stroke('D', 0.5), stroke('E', 0.5), fill, stroke('F', 0.5)];
    expect(inOnePath(items)).toEqual([stroke('AB', 0.25, DASHED), stroke('C', 0.25), stroke('DE', 0.5), fill, stroke('F', 0.5)]);
  });
  it('begins a new path when one grows long, and loses nothing', () => {
    const items = ['aaaa', 'bbbb', 'cccc', 'dddd', 'eeeeeeeeeeee'].map((d) => stroke(d, 1));
    expect(inOnePath(items, 9).map((i) => (i.kind === 'stroke' ? i.d : ''))).toEqual(['aaaabbbb', 'ccccdddd', 'eeeeeeeeeeee']);
  });
  it('of nothing is nothing', () => expect(inOnePath([])).toEqual([]));
});
