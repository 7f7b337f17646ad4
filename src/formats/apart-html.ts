import { componentsOf } from '../core/assembly/components.ts';
import type { Pull } from '../core/explode/spread.ts';
import type { ViewFrame } from '../core/outline/directions.ts';
import { escapeXml as esc } from '../core/picture/svg-items.ts';
import { jsonInPage, modelInPage, pageHead, type PageModel } from './viewer-page.ts';

const STYLE = `
:root{--panel:#f6f3ee;--ink:#2a2926;--mute:#6b6459;--line:#d3cdc1;--main:#a35a0b;--desk:#fffefb;color-scheme:light}
@media (prefers-color-scheme:dark){:root{--panel:#2a2926;--ink:#f3efe7;--mute:#b5ada0;--line:#4a4741;--desk:#201f1c;color-scheme:dark}}
*{box-sizing:border-box}body{margin:0;height:100dvh;display:grid;grid-template-rows:auto 1fr auto;background:var(--desk);color:var(--ink);font:17px/1.35 system-ui,sans-serif}
header{display:flex;gap:14px;padding:12px 20px;background:#2a2926;color:#fff}header span{opacity:.85}
#model-view{min-height:0;min-width:0;position:relative;overflow:hidden;touch-action:none}#model-view canvas{position:absolute;inset:0;display:block}
footer{display:flex;gap:16px;align-items:center;padding:12px 20px;background:var(--panel);border-top:1px solid var(--line)}
button{min-height:48px;padding:0 18px;font:600 17px system-ui;border-radius:8px;border:1px solid var(--line);background:var(--desk);color:var(--ink);cursor:pointer}
button.main{background:var(--main);border-color:var(--main);color:#fff}button:focus-visible,input:focus-visible{outline:3px solid #12707a;outline-offset:2px}
input[type=range]{flex:1;min-height:40px;accent-color:var(--main)}output{min-width:9ch;color:var(--mute)}#what{min-width:16ch;max-width:34ch}
`;

const SCRIPT = `
(async () => {
  const $ = (id) => document.getElementById(id);
  const page = JSON.parse($('page').textContent);
  let viewer;
  try { viewer = await viewerModel($('model-view')); } catch { $('what').textContent = 'This browser shows no 3D.'; return; }
  const slider = $('time'), play = $('play');
  const last = page.pulls.length;
  viewer.ontime = (t) => {
    slider.value = t;
    $('count').textContent = Math.ceil(t) + ' / ' + last;
    $('what').textContent = t > 0 && t <= last ? page.names[Math.ceil(t) - 1] : '';
    play.textContent = viewer.isPlaying ? '❚❚' : '▶';
  };
  viewer.show({ there: [], fresh: page.components, pulls: page.pulls, colored: true, toward: page.toward });
  viewer.at(0);
  slider.max = last;
  slider.oninput = () => { viewer.stop(); viewer.at(Number(slider.value)); };
  let to = last;
  play.onclick = () => {
    if (viewer.isPlaying) { viewer.stop(); play.textContent = '▶'; return; }
    if (viewer.time >= last) to = 0; else if (viewer.time <= 0) to = last;
    viewer.play(to);
  };
  $('apart').onclick = () => viewer.play(to = last);
  $('together').onclick = () => viewer.play(to = 0);
  addEventListener('keydown', (e) => {
    if (e.key === ' ') { e.preventDefault(); play.click(); }
    if (e.key === 'ArrowRight' && e.target !== slider) viewer.play(to = Math.min(last, Math.floor(viewer.time) + 1));
    if (e.key === 'ArrowLeft' && e.target !== slider) viewer.play(to = Math.max(0, Math.ceil(viewer.time) - 1));
  });
})();
`;

/** A page that plays an assembly apart and together, and lets it be turned. It needs nothing else, not even a network. */
export function writeApartHtml(model: PageModel, title: { readonly title: string; readonly number: string }, pulls: readonly Pull[], frame: ViewFrame): string {
  const components = componentsOf(model.assembly);
  const name = [title.number, title.title].filter(Boolean).join('  ');
  const names = pulls.map((p) => {
    const own = [...new Set(p.components.map((c) => components[c]!.name))];
    return own.length > 2 ? `${own.slice(0, 2).join(', ')} and ${own.length - 2} more` : own.join(', ');
  });
  const page = { pulls, names, components: components.map((c) => c.index), toward: frame.toward };
  return `${pageHead('en', name, STYLE)}<body>
<header><b>${esc(title.number || title.title)}</b><span>${esc(title.number ? title.title : '')}</span></header>
<div id="model-view" role="img" aria-label="${esc(name)}"></div>
<footer><button class="main" id="play" aria-label="Play or stop">▶</button><button id="together">Together</button><input id="time" type="range" min="0" step="0.01" value="0" aria-label="How far it is apart"><button id="apart">Apart</button><output id="count"></output><span id="what"></span></footer>
<script type="application/json" id="page">${jsonInPage(page)}</script>
${modelInPage(model)}
<script>${SCRIPT}</script>
</body>
</html>
`;
}
