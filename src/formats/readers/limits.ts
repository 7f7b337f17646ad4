import { MOST_TRIANGLES } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';

/** @throws QuarryError FILE_TOO_MANY beyond what can be drawn */
export function checkTriangles(file: string, count: number): void {
  if (count > MOST_TRIANGLES) throw new QuarryError('FILE_TOO_MANY', { file, count, limit: MOST_TRIANGLES, what: 'triangles' });
}

/** A name as it is shown: one line, no control characters, at most 200 characters. */
export function cleanName(name: string | undefined, otherwise: string): string {
  const text = (name ?? '').replace(/[\u0000-\u001f\u007f]/g, ' ').trim();
  return text === '' ? otherwise : text.length > 200 ? `${text.slice(0, 199)}…` : text;
}

export const withoutEnding = (file: string) => file.replace(/\.\w+$/, '');
