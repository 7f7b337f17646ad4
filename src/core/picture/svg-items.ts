import type { DisplayItem } from './display-list.ts';
import { fingerprint } from '../base/fingerprint.ts';
import { emFor } from './lettering.ts';
import { num } from './shapes.ts';

/** Bold letters are drawn wider by this share of their height: the shipped lettering has one weight. */
export const BOLD = 0.06;

/** Text as it may stand in an attribute or between tags of XML. */
export const escapeXml = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/**
 * Items as SVG elements. Around them the picture declares: paths have no fill and a black stroke with round ends and joins,
 * texts are black in the lettering.
 * @param imageOf the address of a picture by its key; without one it is left out
 */
export function svgItems(items: readonly DisplayItem[], imageOf: (key: string) => string | undefined): string {
  let out = '';
  for (const i of items)
    switch (i.kind) {
      case 'stroke':
        out += `<path d="${i.d}" stroke-width="${num(i.width)}"${i.dash ? ` stroke-dasharray="${i.dash.map(num).join(' ')}"` : ''}${i.color ? ` style="stroke:${escapeXml(i.color)}"` : ''}/>`;
        break;
      case 'fill':
        out += `<path d="${i.d}" style="fill:${escapeXml(i.color)};stroke:none" fill-rule="evenodd"/>`;
        break;
      case 'text':
        out += `<text x="${num(i.x)}" y="${num(i.y)}" font-size="${num(emFor(i.height))}" text-anchor="${i.anchor}"${i.turn ? ` transform="rotate(${num(-i.turn)} ${num(i.x)} ${num(i.y)})"` : ''}${i.color ? ` style="fill:${escapeXml(i.color)}"` : ''}${i.bold ? ` stroke="${escapeXml(i.color ?? '#000')}" stroke-width="${num(i.height * BOLD)}"` : ''}>${escapeXml(i.text)}</text>`;
        break;
      case 'image': {
        const href = i.image.startsWith('data:') ? i.image : imageOf(i.image);
        if (!href) break;
        // Equal clips have equal names: it does not matter which one is found.
        const clip = i.clip && `clip-${fingerprint(i.clip)}`;
        if (clip) out += `<clipPath id="${clip}"><path d="${i.clip}" clip-rule="evenodd"/></clipPath>`;
        out += `<image x="${num(i.x)}" y="${num(i.y)}" width="${num(i.width)}" height="${num(i.height)}" href="${escapeXml(href)}" preserveAspectRatio="none"${clip ? ` clip-path="url(#${clip})"` : ''}/>`;
      }
    }
  return out;
}
