import { numberText } from '../core/ledger/items.ts';
import { toolText, type Guide, type GuideStep } from '../core/guide/guide.ts';
import { kitOfGuide, PICTURE_ROOM, type GuideTitle } from '../core/guide/pages.ts';
import { PHRASES } from '../core/guide/phrases.ts';
import type { PartArt } from '../core/guide/part-art.ts';
import type { StepPicture } from '../core/guide/picture.ts';
import { escapeXml as esc, svgItems } from '../core/picture/svg-items.ts';
import { jsonInPage, modelInPage, pageHead, type PageModel } from './viewer-page.ts';
import { GUIDE_SCRIPT, GUIDE_STYLE_SHEET } from './guide-page.ts';

/** Letters of a page by their weight. */
export type PageLetters = readonly { readonly weight: 400 | 600; readonly data: Uint8Array }[];

export interface GuideHtmlOptions {
  readonly title: GuideTitle;
  readonly pictures: ReadonlyMap<number, StepPicture>;
  /** The lettering of the pictures, TrueType. */
  readonly font: Uint8Array;
  /** The letters of the page, WOFF2, by their weight; absent: the browser's own. */
  readonly letters?: PageLetters;
  /** The model, to be turned and played; absent: there are pictures only. */
  readonly model?: PageModel;
  /** Small pictures of parts, by id. */
  readonly parts?: ReadonlyMap<string, PartArt>;
}

const base64 = (bytes: Uint8Array) => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('base64');

/**
 * A build guide as one page that needs nothing else: a step at a time, large targets, swipe and arrow keys, light and dark. What
 * is ticked stays ticked in this browser.
 */
export function writeGuideHtml(guide: Guide, { title, pictures, font, letters = [], model, parts }: GuideHtmlOptions): string {
  const p = PHRASES[guide.language];
  const name = [title.number, title.revision].filter(Boolean).join(' ');
  const room = `${PICTURE_ROOM.x} ${PICTURE_ROOM.y} ${PICTURE_ROOM.width} ${PICTURE_ROOM.height}`;
  const steps = guide.steps
    .map((s) => {
      const picture = pictures.get(s.number);
      const svg = picture
        ? `<svg viewBox="${room}" role="img" aria-label="${esc(s.text)}">${svgItems(picture.items, (key) => (key === picture.image?.key ? `data:image/png;base64,${base64(picture.image.png)}` : undefined))}</svg>`
        : '';
      return `<section class="step" id="step-${s.number}" data-unit="${s.unit}" hidden>
<div class="picture">${svg}${model ? `<button class="turn" aria-pressed="false">⟳ ${p.turn}</button>` : ''}</div>
<div class="side"><p class="where">${esc(s.unitName)} · ${p.step.toLowerCase()} ${s.place} ${p.of} ${s.places}</p>
<h2>${esc(s.text)}</h2>
${s.callouts.map((c) => `<p class="callout">${esc(c)}</p>`).join('')}${s.heavy ? `<p class="heavy">${esc(s.heavy)}</p>` : ''}
${takeOf(guide, s, parts)}${checksOf(guide, s)}</div>
</section>`;
    })
    .join('\n');
  const kit = kitOfGuide(guide)
    .map(
      (k) =>
        `<tr><td>${esc(numberText(k.item))}</td><td><b>${k.quantity}</b></td><td>${artOf(k, parts)}</td><td>${esc(k.name)}</td><td>${esc(numberOf(k))}</td><td>${esc(k.place)}</td><td>${k.tool ? esc(toolText(k.tool, guide.language)) : ''}</td></tr>`,
    )
    .join('');
  const data = {
    count: guide.steps.length,
    key: `guide ${name} ${title.title} ${title.date}`,
    answers: null,
    words: { remark: p.remark, done: p.done, step: p.step, of: p.of, turn: p.turn, play: p.play, part: p.part, name: p.name, serial: p.serial, stop: p.stop },
    shows: model
      ? guide.steps.map((s) => ({
          there: s.there,
          fresh: s.kind === 'join' ? s.joins : s.adds,
          pulls: pictures.get(s.number)?.pulls ?? [],
          toward: pictures.get(s.number)?.frame.toward,
        }))
      : [],
    items: guide.steps.map((s) => s.kit.map((k) => [k.item.part, `${numberText(k.item)}  ${k.name}`])),
  };
  const faces = letters
    .map((l) => `@font-face{font-family:'Source Sans 3';font-weight:${l.weight};src:url(data:font/woff2;base64,${base64(l.data)})}`)
    .join('');
  const style = `${faces}@font-face{font-family:osifont;src:url(data:font/ttf;base64,${base64(font)})}
${GUIDE_STYLE_SHEET}`;
  return `${pageHead(guide.language, `${name} ${title.title}`.trim(), style)}<body>
<header><b>${esc(name || title.title)}</b><span class="name">${esc(name ? title.title : '')}</span><div class="bar" role="progressbar" aria-valuemin="0" aria-valuemax="${guide.steps.length}"><i></i></div><span class="unit"></span></header>
<main>
<section class="step kit" id="step-0"><h2>${p.kit}</h2><table><thead><tr>${p.kitHeads
    .slice(0, 7)
    .map((h) => `<th scope="col">${esc(h)}</th>`)
    .join('')}</tr></thead><tbody>${kit}</tbody></table><p class="order">${guide.checked ? p.checked : p.unchecked}</p></section>
${steps}
</main>
<nav><button class="back">◀ ${p.back}</button><span class="dots" aria-hidden="true"></span><button class="next">${p.done} ▶</button></nav>
<script type="application/json" id="guide">${jsonInPage(data)}</script>
${model ? modelInPage(model) : ''}
<script>${GUIDE_SCRIPT}</script>
</body>
</html>
`;
}

const numberOf = (k: GuideStep['kit'][number]) => k.item.values.drawingNumber.text || k.item.values.partNumber.text || k.item.values.supplierNumber.text;

/** A small picture of the part, as large as its line. */
function artOf(k: GuideStep['kit'][number], parts: GuideHtmlOptions['parts']): string {
  const art = parts?.get(k.item.part);
  return art
    ? `<svg class="art" viewBox="0 0 20 14" aria-hidden="true">${svgItems(art.fitted({ x: 0.5, y: 0.5, width: 19, height: 13 }), () => undefined)}</svg>`
    : '';
}

function takeOf(guide: Guide, s: GuideStep, parts: GuideHtmlOptions['parts']): string {
  if (!s.kit.length) return '';
  const rows = s.kit.map((k) => {
    const note = [numberOf(k), k.place, k.tool ? toolText(k.tool, guide.language) : ''].filter(Boolean).join(' · ');
    return `<li><span class="number">${esc(numberText(k.item))}</span>${artOf(k, parts)}<span class="what">${esc(k.name)}${note ? `<small>${esc(note)}</small>` : ''}</span><b>${k.quantity}</b></li>`;
  });
  return `<h3>${PHRASES[guide.language].take}</h3><ul class="take">${rows.join('')}</ul>`;
}

function checksOf(guide: Guide, s: GuideStep): string {
  if (!s.checks.length) return '';
  const rows = s.checks.map((c, i) => `<li><label><input type="checkbox" data-check="${s.number}/${i}"> ${esc(c)}</label></li>`);
  return `<h3>${PHRASES[guide.language].check}</h3><ul class="checks">${rows.join('')}</ul>`;
}
