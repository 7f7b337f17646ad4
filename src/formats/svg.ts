import type { DisplayItem, DisplayList } from '../core/picture/display-list.ts';
import { emFor } from '../core/picture/lettering.ts';
import { num } from '../core/picture/shapes.ts';

const escape = (s: string) => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

export interface SvgOptions {
  /** Pictures by key, as data URLs. */
  readonly images?: ReadonlyMap<string, string>;
  /** CSS that declares the lettering, such as an embedded font face. */
  readonly style?: string;
}

/** A sheet as an SVG document of true size. */
export function writeSvg(list: DisplayList, options: SvgOptions = {}): string {
  const groups = list.groups
    .map(
      (g) =>
        `<g data-role="${g.role}" data-id="${escape(g.id)}" role="group" aria-label="${escape(g.label)}">${g.items.map((i) => item(i, options)).join('')}</g>`,
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

function item(i: DisplayItem, options: SvgOptions): string {
  switch (i.kind) {
    case 'stroke':
      return `<path d="${i.d}" stroke-width="${num(i.width)}"${i.dash ? ` stroke-dasharray="${i.dash.join(' ')}"` : ''}/>`;
    case 'fill':
      return `<path d="${i.d}" style="fill:${i.color};stroke:none" fill-rule="evenodd"/>`;
    case 'text':
      return `<text x="${num(i.x)}" y="${num(i.y)}" font-size="${num(emFor(i.height))}" text-anchor="${i.anchor}">${escape(i.text)}</text>`;
    case 'image': {
      const href = options.images?.get(i.image);
      return href ? `<image x="${num(i.x)}" y="${num(i.y)}" width="${num(i.width)}" height="${num(i.height)}" href="${href}" preserveAspectRatio="none"/>` : '';
    }
  }
}
