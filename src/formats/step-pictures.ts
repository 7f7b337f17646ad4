import { strToU8, zipSync } from 'fflate';
import type { Assembly } from '../core/assembly/assembly.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { checkCancel, type Cancel } from '../core/base/errors.ts';
import { motionsOf, movedBodies, type Pull } from '../core/explode/spread.ts';
import type { ViewFrame } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import type { Body } from '../core/outline/scene.ts';
import { linesBox } from '../core/outline/linework.ts';
import { runPath } from '../core/picture/run-path.ts';
import { num } from '../core/picture/shapes.ts';

/**
 * A numbered picture for each step of building it, as SVG in a zip: step 1 is what stands at first, and each further
 * step adds what the last pull not yet undone took off, drawn bold. All at one scale.
 */
export function stepPictures(
  assembly: Assembly,
  bodies: readonly Body[],
  pulls: readonly Pull[],
  frame: ViewFrame,
  cancel: Cancel,
  onProgress: (share: number) => void,
): Uint8Array {
  const count = componentsOf(assembly).length;
  const whole = linesBox(hiddenLines(movedBodies(bodies, motionsOf(pulls, count)), frame));
  const files: Record<string, Uint8Array> = {};
  for (let made = pulls.length; made >= 0; made--) {
    checkCancel(cancel);
    const step = pulls.length - made + 1;
    onProgress(step / (pulls.length + 1));
    // What came back last is what the pull after the present state moves.
    const fresh = new Set(made < pulls.length ? pulls[made]!.components : []);
    const lines = hiddenLines(movedBodies(bodies, motionsOf(pulls, count, made)), frame);
    files[`step-${String(step).padStart(3, '0')}.svg`] = strToU8(picture(lines, whole, step, fresh));
  }
  return zipSync(files, { level: 6 });
}

function picture(lines: ReturnType<typeof hiddenLines>, box: readonly number[], step: number, fresh: ReadonlySet<number>): string {
  const [x0, y0, x1, y1] = box as [number, number, number, number];
  const size = Math.max(x1 - x0, y1 - y0);
  const pen = size / 900;
  const map = { scale: 1, x: (v: number) => v - x0, y: (v: number) => y1 - v };
  const paths = Array.from(lines.kind, (_, i) => {
    const bold = fresh.has(lines.component[i]!);
    return `<path d="${runPath(lines, i, map)}" stroke-width="${num(bold ? 2.2 * pen : pen)}"/>`;
  });
  const [m, letter] = [0.03 * size, 0.045 * size];
  const label = `<text x="${num(letter * 0.2)}" y="${num(letter)}" font-size="${num(letter)}" font-family="sans-serif" fill="#000" stroke="none">${step}</text>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${num(-m)} ${num(-m)} ${num(x1 - x0 + 2 * m)} ${num(y1 - y0 + 2 * m)}" fill="none" stroke="#000" stroke-linecap="round">\n${paths.join('\n')}\n${label}\n</svg>\n`;
}
