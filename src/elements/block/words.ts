import { fieldValue, fillIn } from '../field-values.ts';
import type { Scene } from '../scene.ts';
import type { BlockRecord } from './layout.ts';

/** A cell's text with its fields put in. A field without a value is empty on a sheet, and stays as it was typed on a format that no sheet lies on. */
export function blockText(words: string, block: BlockRecord, scene: Scene): string {
  const own = scene.one('sheet', block.sheet);
  const sheet = own && scene.shownSheet(own);
  return fillIn(words, (name, pattern) => fieldValue(name, pattern, sheet, scene)?.text, sheet ? '' : undefined);
}
