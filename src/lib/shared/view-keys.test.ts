import { describe, expect, test, vi } from 'vitest';
import type { Look } from './Stage3d.svelte';
import { viewKey } from './view-keys';

const look = { turn: vi.fn(), zoom: vi.fn() };
const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  viewKey(look as unknown as Look, { key, ctrlKey: false, metaKey: false, ...more } as KeyboardEvent);

describe('keys of the 3D picture', () => {
  test('arrows turn it their way', () => {
    const turned = (key: string) => {
      press(key)!();
      return look.turn.mock.lastCall;
    };
    expect(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].map(turned)).toEqual([
      [-0.12, 0],
      [0.12, 0],
      [0, -0.12],
      [0, 0.12],
    ]);
  });
  test('plus and minus undo each other', () => {
    const zoomed = (key: string) => {
      press(key)!();
      return look.zoom.mock.lastCall![0] as number;
    };
    expect(zoomed('+')).toBeGreaterThan(1);
    expect(zoomed('=')).toBe(zoomed('+'));
    expect(zoomed('+') * zoomed('-')).toBeCloseTo(1, 12);
  });
  test('other keys, and those of the browser, are left alone; so is a picture that is not there', () => {
    expect([press('a'), press('+', { ctrlKey: true }), press('ArrowUp', { metaKey: true }), viewKey(undefined, { key: '+' } as KeyboardEvent)]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
});
