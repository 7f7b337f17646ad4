import type { DisplayItem, DisplayList } from '../core/picture/display-list.ts';
import { layerOf } from '../core/picture/layers.ts';
import { num } from '../core/picture/shapes.ts';
import { escapeXml as escape, svgItems } from '../core/picture/svg-items.ts';

export interface SvgOptions {
  /** Pictures by key, as data URLs. */
  readonly images?: ReadonlyMap<string, string>;
  /** CSS that declares the lettering, such as an embedded font face. */
  readonly style?: string;
}

/** Items with those of one component, and of one item of the list, in groups that name them. */
function namedItems(items: readonly DisplayItem[], imageOf: (key: string) => string | undefined): string {
  let out = '';
  for (let i = 0; i < items.length;) {
    const name = nameOf(items[i]!);
    const from = i;
    while (i < items.length && nameOf(items[i]!) === name) i++;
    const run = svgItems(items.slice(from, i), imageOf);
    out += name ? `<g ${name}>${run}</g>` : run;
  }
  return out;
}

function nameOf(i: DisplayItem): string {
  if (i.kind === 'image' || !i.source) return '';
  const { component, item } = i.source;
  return [component === undefined ? '' : `data-component="${component}"`, item === undefined ? '' : `data-item="${item}"`].filter(Boolean).join(' ');
}

/** A sheet as an SVG document of true size. */
export function writeSvg(list: DisplayList, options: SvgOptions = {}): string {
  const groups = list.groups
    .map(
      (g) =>
        `<g data-layer="${escape(layerOf(g))}" data-role="${g.role}" data-id="${escape(g.id)}" role="group" aria-label="${escape(g.label)}">${namedItems(g.items, (key) => options.images?.get(key))}</g>`,
    )
    .join('\n');
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${num(list.width)}mm" height="${num(list.height)}mm" viewBox="0 0 ${num(list.width)} ${num(list.height)}">
<style>${options.style ?? ''}text{font-family:osifont,sans-serif;fill:#000}path{fill:none;stroke:#000;stroke-linecap:round;stroke-linejoin:round}</style>
<rect width="100%" height="100%" fill="#fff"/>
${groups}
</svg>
`;
}
