import type { Scene } from '../scene.ts';

/** Left out since they are easily misread (ASME Y14.3 and common practice; from memory). */
const LETTERS = [...'ABCDEFGHJKLMNPRTUVWY'];

/** The next letter for a section or a detail: A, B, …, Y, AA, BB, … @param used by others */
export function nextLetter(used: ReadonlySet<string>): string {
  for (let n = 1; ; n++)
    for (const l of LETTERS) {
      const name = l.repeat(n);
      if (!used.has(name)) return name;
    }
}

/** Letters of sections and details that are taken. */
export const lettersOf = (scene: Scene): Set<string> => new Set(scene.all('view').flatMap((v) => [v.cut?.letter ?? '', v.detail?.letter ?? '', v.arrow ?? '']));
