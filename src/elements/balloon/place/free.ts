import { inflate } from '../../../core/base/rect.ts';
import type { LayoutArea } from './layout.ts';

/** May a balloon stand here: inside what is allowed, clear of what is in the way and of those that stay? @param x,y its centre, paper mm */
export function isFree(x: number, y: number, { allowed, obstacles, standing = [], diameter }: LayoutArea): boolean {
  const r = diameter / 2;
  if (x - r < allowed.x || x + r > allowed.x + allowed.width || y - r < allowed.y || y + r > allowed.y + allowed.height) return false;
  if (standing.some((b) => Math.hypot(x - b.x, y - b.y) < diameter * 1.15)) return false;
  return !obstacles.some((o) => {
    const w = inflate(o, diameter * 0.8);
    return x > w.x && x < w.x + w.width && y > w.y && y < w.y + w.height;
  });
}
