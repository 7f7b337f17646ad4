import type { DisplayGroup, DisplayItem } from '$core/picture/display-list';
import { svgItems } from '$core/picture/svg-items';
import { inOnePath } from './in-one-path';

const known = new WeakMap<DisplayGroup, string>();

/**
 * A group as SVG text; written once, unless it shows a picture whose address may come later.
 * @param besides texts that are shown otherwise: nobody shall read them twice
 */
export function markupOf(group: DisplayGroup, images: (id: string) => string | undefined, besides: readonly DisplayItem[] = []): string {
  if (besides.length) return svgItems(inOnePath(group.items.filter((i) => !besides.includes(i))), images);
  let markup = known.get(group);
  if (markup === undefined) {
    markup = svgItems(inOnePath(group.items), images);
    if (group.items.every((i) => i.kind !== 'image')) known.set(group, markup);
  }
  return markup;
}
