import type { DisplayGroup } from '$core/picture/display-list';
import { svgItems } from '$core/picture/svg-items';

const known = new WeakMap<DisplayGroup, string>();

/** A group as SVG text; written once, unless it shows a picture whose address may come later. */
export function markupOf(group: DisplayGroup, images: (id: string) => string | undefined): string {
  let markup = known.get(group);
  if (markup === undefined) {
    markup = svgItems(group.items, images);
    if (group.items.every((i) => i.kind !== 'image')) known.set(group, markup);
  }
  return markup;
}
