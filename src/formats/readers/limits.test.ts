import { describe, expect, test } from 'vitest';
import { MOST_TRIANGLES } from '../../core/assembly/mesh-tree.ts';
import { tetraStl } from '../testing/hostile-files.ts';
import { readMeshFile } from './index.ts';
import { checkTriangles, cleanName, withoutEnding } from './limits.ts';

describe('names from files', () => {
  test('are one line without control characters, of at most 200 characters', () => {
    expect([cleanName(' Bolt\tM8\n', 'x'), cleanName('\u0000\u001f\u007f', 'x'), cleanName(undefined, 'x'), cleanName('', 'Part')]).toEqual([
      'Bolt M8',
      'x',
      'x',
      'Part',
    ]);
    expect(cleanName('y'.repeat(200), 'x')).toBe('y'.repeat(200));
    expect(cleanName('y'.repeat(201), 'x')).toBe(`${'y'.repeat(199)}…`);
  });
  test('of files lose their ending, and that only', () => {
    expect(['frame.stl', 'rev.2.step', 'a.b/c', 'plain'].map(withoutEnding)).toEqual(['frame', 'rev.2', 'a.b/c', 'plain']);
  });
});

describe('how much a mesh file may hold', () => {
  test('as many triangles as can be drawn, not one more', () => {
    checkTriangles('a.stl', MOST_TRIANGLES);
    expect(() => checkTriangles('a.stl', MOST_TRIANGLES + 1)).toThrow(`a.stl has ${MOST_TRIANGLES + 1} triangles; the limit is ${MOST_TRIANGLES}.`);
  });
  test('a file cut short says what it promised and what it holds', async () => {
    const whole = tetraStl();
    const refusal = (length: number) => readMeshFile({ name: 't.stl', bytes: whole.slice(0, length) }, []).catch((e: Error) => e.message);
    // 84 bytes of header, 50 a triangle.
    expect(await refusal(84 + 3 * 50 + 49)).toBe('t.stl is damaged: it promises 4 triangles and ends after 3. Export it again as STL.');
    expect(await refusal(84)).toBe('t.stl is damaged: it promises 4 triangles and ends after 0. Export it again as STL.');
    expect(await refusal(83)).toBe('t.stl is damaged: it is too short to hold a triangle. Export it again as STL.');
  });
});
