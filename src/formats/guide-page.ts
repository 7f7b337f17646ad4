/** Style and script of the page that a guide is shown on. They stand inside the file: it opens anywhere, without a network. */

export const GUIDE_STYLE_SHEET = `
:root{--paper:#fffefb;--panel:#f6f3ee;--desk:#ded9cf;--line:#d3cdc1;--ink:#2a2926;--mute:#6b6459;--main:#a35a0b;--bar:#2a2926;color-scheme:light}
@media (prefers-color-scheme:dark){:root{--paper:#201f1c;--panel:#2a2926;--desk:#151412;--line:#4a4741;--ink:#f3efe7;--mute:#b5ada0;--bar:#0f0e0d;color-scheme:dark}.picture{background:#fffefb}}
*{box-sizing:border-box}
body{margin:0;height:100dvh;display:grid;grid-template-rows:auto 1fr auto;background:var(--desk);color:var(--ink);font:17px/1.35 'Source Sans 3',system-ui,sans-serif;overflow:hidden;touch-action:pan-y}
header{display:flex;gap:16px;align-items:center;padding:12px 22px;background:var(--bar);color:#fff}
header .name{opacity:.85;white-space:nowrap;overflow:hidden;text-overflow:ellipsis}
.bar{flex:1;height:10px;border-radius:5px;background:#5a5750;overflow:hidden;min-width:60px}.bar i{display:block;height:100%;background:#d98324;width:0}
main{min-height:0;position:relative}
.step{position:absolute;inset:0;display:grid;grid-template-columns:1fr minmax(260px,26%);min-height:0}
.step[hidden]{display:none}
.picture{min-height:0;padding:6px;background:var(--paper)}
.picture svg{width:100%;height:100%}
.picture path{fill:none;stroke:#000;stroke-linecap:round;stroke-linejoin:round}
.picture{position:relative}.art{width:64px;height:44px;flex:none;background:#fffefb;border-radius:6px}.art path{fill:none;stroke:#000;stroke-linecap:round}
.turn,.play{position:absolute;left:14px;bottom:14px;min-height:48px;padding:0 16px;font:600 17px 'Source Sans 3',system-ui;border-radius:10px;border:1px solid var(--line);background:#f6f3eee6;color:#2a2926;cursor:pointer}.play{left:auto;right:14px}
.solid{position:absolute;inset:0;background:#fffefb;touch-action:none}.solid canvas{position:absolute;inset:0}
.picture text{font-family:osifont,sans-serif;fill:#000}
.side{background:var(--panel);border-left:1px solid var(--line);padding:18px 20px;overflow:auto}
.where{color:var(--mute);margin:0}h2{font-size:24px;line-height:1.2;margin:8px 0 12px}h3{font-size:17px;margin:18px 0 8px}
.callout,.heavy{border-left:4px solid var(--main);padding:4px 10px;margin:8px 0}.heavy{font-weight:600}
ul{list-style:none;margin:0;padding:0}
.take li{display:flex;gap:12px;align-items:center;background:var(--paper);border:1px solid var(--line);border-radius:10px;padding:10px 12px;margin:8px 0}
.take .what{flex:1}.take small{display:block;color:var(--mute)}.take b{font-size:22px}
.number{border:1.5px solid currentColor;border-radius:50%;min-width:40px;height:40px;display:grid;place-items:center;padding:0 4px}
.checks label{display:flex;gap:12px;align-items:center;min-height:48px}.checks input{width:28px;height:28px;flex:none}
.kit{display:block;overflow:auto;background:var(--paper);padding:18px 26px}.kit table{border-collapse:collapse;width:100%}.kit td,.kit th{padding:7px 12px;border-bottom:1px solid var(--line);text-align:left}.kit th{color:var(--mute);font-weight:600;font-size:15px}
.order{color:var(--mute)}
nav{display:flex;gap:16px;align-items:center;padding:12px 22px;background:var(--desk)}
nav button{min-height:58px;min-width:130px;padding:0 22px;font:600 19px 'Source Sans 3',system-ui,sans-serif;border-radius:10px;border:1px solid var(--line);background:var(--paper);color:var(--ink);cursor:pointer}
nav .next{background:var(--main);border-color:var(--main);color:#fff}nav button:disabled{opacity:.4}
nav button:focus-visible{outline:3px solid #12707a;outline-offset:2px}
.dots{flex:1;text-align:center;letter-spacing:3px;color:var(--mute);overflow:hidden;white-space:nowrap}
dialog{border:1px solid var(--line);border-radius:12px;background:var(--panel);color:var(--ink);width:min(560px,92vw);padding:20px}
dialog select,dialog textarea,dialog input[type=text]{width:100%;font:inherit;padding:10px;border:1px solid var(--line);border-radius:8px;background:var(--paper);color:var(--ink)}
dialog p{display:flex;gap:10px;justify-content:flex-end}dialog button{min-height:48px;padding:0 18px;font:600 17px 'Source Sans 3',system-ui;border-radius:8px;border:1px solid var(--line);background:var(--paper);color:var(--ink)}
.kept{color:var(--mute);font-size:15px}
@media (max-width:760px){.step{grid-template-columns:1fr;grid-template-rows:1fr minmax(38%,auto)}.side{border-left:0;border-top:1px solid var(--line)}header .name{display:none}nav{gap:8px;padding:8px}nav button{min-width:0;padding:0 14px}}
@media print{body{display:block;height:auto;overflow:visible}nav,.bar{display:none}.step,.step[hidden]{display:grid;position:static;height:180mm;break-after:page}.kit{display:block}}
`;

export const GUIDE_SCRIPT = `
(() => {
  const guide = JSON.parse(document.getElementById('guide').textContent);
  const $ = (s) => document.querySelector(s);
  const read = (key, otherwise) => { try { return JSON.parse(localStorage.getItem(guide.key + key)) ?? otherwise; } catch { return otherwise; } };
  const keep = (key, value) => { try { localStorage.setItem(guide.key + key, JSON.stringify(value)); } catch { /* A browser that keeps nothing still shows the guide. */ } };
  let at = Math.min(guide.count, read(' at', 0));
  const checks = read(' checks', {});
  document.querySelectorAll('[data-check]').forEach((box) => {
    box.checked = checks[box.dataset.check] === true;
    box.onchange = () => { checks[box.dataset.check] = box.checked; keep(' checks', checks); send({ kind: 'check', step: at, check: Number(box.dataset.check.split('/')[1]), done: box.checked }); };
  });
  function show(n) {
    at = Math.max(0, Math.min(guide.count, n));
    document.querySelectorAll('.step').forEach((s) => (s.hidden = s.id !== 'step-' + at));
    $('.bar i').style.width = (100 * at) / guide.count + '%';
    $('.bar').setAttribute('aria-valuenow', at);
    $('.unit').textContent = at ? guide.words.step + ' ' + at + ' ' + guide.words.of + ' ' + guide.count : '';
    $('.back').disabled = at === 0;
    $('.next').disabled = at === guide.count && done.has(at);
    $('.dots').textContent = guide.count <= 24 ? Array.from({ length: guide.count }, (_, i) => (i + 1 === at ? '◉' : done.has(i + 1) ? '●' : '○')).join('') : at + ' / ' + guide.count;
    keep(' at', at);
    flat();
  }

  // The model, to be turned with a finger: unpacked when it is first asked for.
  const solid = document.createElement('div');
  solid.className = 'solid';
  const play = document.createElement('button');
  play.className = 'play';
  play.textContent = '▶ ' + guide.words.play;
  let viewer, turning = false;
  function flat() {
    if (!turning) return;
    turning = false;
    viewer?.stop();
    const button = solid.parentElement?.querySelector('.turn');
    if (button) { button.setAttribute('aria-pressed', 'false'); button.textContent = '⟳ ' + guide.words.turn; }
    solid.remove();
    play.remove();
  }
  document.querySelectorAll('.turn').forEach((button) => {
    button.onclick = async () => {
      if (turning) { flat(); return; }
      turning = true;
      button.before(solid);
      button.after(play);
      button.setAttribute('aria-pressed', 'true');
      button.textContent = guide.words.stop;
      const step = at;
      try {
        viewer ??= await viewerModel(solid);
        if (turning && step === at) { viewer.show(guide.shows[at - 1]); replay(); }
      } catch { flat(); button.remove(); }
    };
  });
  function replay() { viewer.at(guide.shows[at - 1].pulls.length); viewer.play(0); }
  play.onclick = replay;
  const done = new Set(read(' done', []));
  function next() {
    if (at) { done.add(at); keep(' done', [...done]); send({ kind: 'tick', step: at }); }
    show(at + 1);
  }
  $('.next').onclick = next;
  $('.back').onclick = () => show(at - 1);
  addEventListener('keydown', (e) => { if (e.target.closest('dialog,textarea,input')) return; if (e.key === ' ' && turning) { e.preventDefault(); replay(); } if (e.key === 'ArrowRight') show(at + 1); if (e.key === 'ArrowLeft') show(at - 1); });
  let from;
  addEventListener('pointerdown', (e) => (from = e.pointerType === 'touch' && !e.target.closest('.solid') ? [e.clientX, e.clientY] : undefined));
  addEventListener('pointerup', (e) => {
    if (!from) return;
    const [dx, dy] = [e.clientX - from[0], e.clientY - from[1]];
    from = undefined;
    if (Math.abs(dx) > 70 && Math.abs(dy) < 60) show(at + (dx < 0 ? 1 : -1));
  });

  // What the bench answers waits here until it has arrived.
  const waiting = read(' waiting', []);
  let sending = false;
  function send(answer) {
    if (!guide.answers) return;
    waiting.push({ ...answer, id: crypto.randomUUID(), when: new Date().toISOString(), ...bench() });
    keep(' waiting', waiting);
    void deliver();
  }
  async function deliver() {
    if (sending || !guide.answers) return;
    sending = true;
    while (waiting.length) {
      try {
        const r = await fetch(guide.answers, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(waiting[0]) });
        // What the server will never take is not sent for ever.
        if (!r.ok && r.status >= 500) break;
      } catch { break; }
      waiting.shift();
      keep(' waiting', waiting);
    }
    sending = false;
    const kept = $('.kept');
    if (kept) kept.textContent = waiting.length ? '⇅ ' + waiting.length : '';
  }
  function bench() { return read(' bench', { serial: '', who: '' }); }
  if (guide.answers) {
    addEventListener('online', deliver);
    setInterval(deliver, 10000);
    void deliver();
    const button = document.createElement('button');
    button.className = 'remark';
    button.textContent = '✎ ' + guide.words.remark;
    $('.next').before(button);
    const kept = document.createElement('span');
    kept.className = 'kept';
    button.before(kept);
    const dialog = document.createElement('dialog');
    dialog.innerHTML = '<form method="dialog"><h2></h2><select name="item"></select><textarea rows="4" required></textarea><p style="justify-content:flex-start"><input type="file" accept="image/*" capture="environment"></p><div style="display:grid;grid-template-columns:1fr 1fr;gap:10px"><input type="text" name="who" placeholder="' + guide.words.name + '"><input type="text" name="serial" placeholder="' + guide.words.serial + '"></div><p><button value="no" formnovalidate>✕</button><button value="yes">✔</button></p></form>';
    document.body.append(dialog);
    const area = dialog.querySelector('textarea');
    const file = dialog.querySelector('input[type=file]');
    $('.remark').onclick = () => {
      dialog.querySelector('h2').textContent = guide.words.step + ' ' + at;
      const select = dialog.querySelector('select');
      select.replaceChildren(new Option(guide.words.part, ''), ...(guide.items[at - 1] ?? []).map(([part, name]) => new Option(name, part)));
      select.ariaLabel = guide.words.part;
      for (const name of ['who', 'serial']) dialog.querySelector('[name=' + name + ']').value = bench()[name];
      dialog.showModal();
    };
    dialog.onclose = async () => {
      const before = bench().serial;
      keep(' bench', { who: dialog.querySelector('[name=who]').value.slice(0, 80), serial: dialog.querySelector('[name=serial]').value.slice(0, 80) });
      // Another unit begins at its beginning.
      if (bench().serial !== before) { done.clear(); keep(' done', []); show(at); }
      const text = area.value.trim();
      if (dialog.returnValue === 'yes' && text) {
        const part = dialog.querySelector('select').value;
        send({ kind: 'remark', step: at, text, ...(part ? { part } : {}), photo: await photoOf(file.files[0]) });
      }
      area.value = '';
      file.value = '';
    };
  }
  /** A photo small enough to be sent over a bad line. */
  async function photoOf(file) {
    if (!file) return null;
    const bitmap = await createImageBitmap(file);
    const k = Math.min(1, 1280 / Math.max(bitmap.width, bitmap.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.round(bitmap.width * k);
    canvas.height = Math.round(bitmap.height * k);
    canvas.getContext('2d').drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    return canvas.toDataURL('image/jpeg', 0.8);
  }
  show(at);
})();
`;
