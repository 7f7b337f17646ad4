import { numberText } from '../../../core/ledger/items';
import type { Action } from '$lib/shared/action';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press } from '$lib/sheets/tool';
import type { Tools } from '$lib/sheets/tools.svelte';
import type { ViewRecord } from '../../../core/document/records';
import { removed } from '../../remove';
import { newBalloon } from '../../balloon/place/add';
import { without } from '../../../core/base/without';
import { withHatch, type Hatch } from '../hatch';
import { canTurn, slopeAt, turnView } from '../turn';
import { withPen } from '../pens';
import { chosenSteps, groupsByAssembly, showing, withFaint, withShown } from '../shows';
import { circleAt, toggleCircle } from '../../centre/toggle';
import { componentNear } from '../kind';

/** A pen that stands out in a pictorial that explains. */
const PEN = { width: 1.5, color: '#a3271f' } as const;

const offer = (id: string, label: string, run: () => void, key = ''): Action => ({ id, label, key, run });

/** What can be done with the component or the edge at a place in a view. */
export function viewOffers(view: ViewRecord, p: Press, drawing: Drawing, tools: Tools): { readonly title?: string; readonly offers: readonly Action[] } {
  const { scene } = drawing;
  const pathsOf = (of: { readonly components: readonly number[] }) => of.components.map((c) => scene.components[c]!.path);
  const component = componentNear(view, p.at, scene, p.grace);
  const item = scene.itemOf(component);
  if (component === undefined || !item) return { offers: [] };
  const path = scene.components[component]!.path;
  const offers: Action[] = [];
  const balloon = newBalloon(scene, view, component, p.at, `balloon:${item.part}`);
  if (balloon)
    offers.push(
      offer('balloon-here', `Balloon for item ${numberText(item)}`, () => {
        const record = { ...balloon, id: drawing.freshId(balloon.id) };
        drawing.edit(`Add balloon ${numberText(item)}`, [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
      }),
    );
  const circle = circleAt(scene, view, p.at, p.grace);
  const marks = circle && toggleCircle(scene, view, circle, drawing.freshId('centre'));
  if (marks) offers.push(offer('centre-here', 'Centre mark of this circle, on or off', () => drawing.edit('Centre mark', marks)));
  offers.push(
    offer('through-level', 'Section through it, level', () => void tools.sections.through(view, component, false)),
    offer('through-upright', 'Section through it, upright', () => void tools.sections.through(view, component, true)),
  );
  const { cut } = view;
  if (cut) {
    if (scene.result(view.id)?.caps.some((c) => c.component === component)) {
      const hatch = (id: string, label: string, change: Hatch) =>
        offer(id, label, () => drawing.edit(label, [{ op: 'put', record: withHatch(view, pathsOf(item), change) }]));
      const own = view.hatch?.find((h) => h.of.includes(path));
      const slope = (own?.angle ?? Math.PI / 4) + Math.PI / 12;
      offers.push(
        hatch('hatch-turn', 'Turn its hatching by 15°', { ...own, angle: slope % Math.PI }),
        hatch('hatch-filled', 'Fill it', { pattern: 'filled' }),
        hatch('hatch-none', 'No hatching in it', { pattern: 'none' }),
      );
      if (own) offers.push(hatch('hatch-usual', 'Its usual hatching', {}));
    }
    const everywhere = scene.all('view').filter((v) => v.cut && !v.detail);
    offers.push(
      offer('whole-everywhere', `Keep item ${numberText(item)} whole in every section`, () =>
        drawing.edit(
          `Keep item ${numberText(item)} whole everywhere`,
          everywhere.map((v) => ({ op: 'put', record: { ...v, cut: { ...v.cut!, keptWhole: [...new Set([...v.cut!.keptWhole, ...pathsOf(item)])] } } })),
        ),
      ),
    );
    const whole = cut.keptWhole.includes(path);
    const above = groupsByAssembly(scene)
      .filter((g) => g.paths.includes(path))
      .at(-1);
    if (above && !above.paths.every((p) => cut.keptWhole.includes(p)))
      offers.push(
        offer('whole-above', `Keep ${above.title} whole`, () =>
          drawing.edit(`Keep ${above.title} whole`, [
            { op: 'put', record: { ...view, cut: { ...cut, keptWhole: [...new Set([...cut.keptWhole, ...above.paths])] } } },
          ]),
        ),
      );
    const label = whole ? 'Cut this piece' : 'Keep this piece whole';
    const keptWhole = whole ? cut.keptWhole.filter((k) => k !== path) : [...cut.keptWhole, path];
    offers.push(offer('whole', label, () => drawing.edit(label, [{ op: 'put', record: { ...view, cut: { ...cut, keptWhole } } }])));
  }
  const slope = canTurn(view) ? slopeAt(scene, view, p.at, p.grace) : undefined;
  if (slope !== undefined && Math.abs(slope) > 1e-4) {
    offers.push(offer('level', 'Set the view level by this edge', () => drawing.edit('Set level', turnView(scene, view, -slope))));
    if (Math.PI / 2 - Math.abs(slope) > 1e-4)
      offers.push(
        offer('upright', 'Set the view upright by this edge', () =>
          drawing.edit('Set upright', turnView(scene, view, (slope > 0 ? 1 : -1) * (Math.PI / 2) - slope)),
        ),
      );
  }
  const pulled = scene.result(view.id)?.pulls.some((l) => l.component === component) ?? false;
  const lineOff = view.linesOff?.includes(path) ?? false;
  if (view.pullLines && (pulled || lineOff) && !view.detail) {
    const linesOff = lineOff ? view.linesOff!.filter((p) => p !== path) : [...(view.linesOff ?? []), path];
    offers.push(
      offer('pull-line', lineOff ? 'Its pull line in this view' : 'No pull line for it in this view', () =>
        drawing.edit('Pull line', [{ op: 'put', record: linesOff.length ? { ...view, linesOff } : without(view, 'linesOff') }]),
      ),
    );
  }
  if (!view.detail) {
    const put = (label: string, record: ViewRecord) => drawing.edit(label, chosenSteps(scene, view, record));
    const above = groupsByAssembly(scene)
      .filter((g) => g.paths.includes(path))
      .at(-1);
    const faint = view.faint?.includes(path) ?? false;
    offers.push(
      offer('hide', 'Hide this piece here', () => put('Hide a piece', withShown(view, scene, [path], false))),
      offer('only', `Show only item ${numberText(item)}`, () => put(`Only item ${numberText(item)}`, showing(view, 'only', pathsOf(item)))),
      offer('hide-all', `Hide item ${numberText(item)} here`, () => put(`Hide item ${numberText(item)}`, withShown(view, scene, pathsOf(item), false))),
      offer('faint', faint ? 'Show it in full' : 'Show it faint', () => put(faint ? 'In full' : 'Faint', withFaint(view, [path], !faint))),
    );
    if (above) offers.push(offer('only-above', `Show only ${above.title}`, () => put(`Only ${above.title}`, showing(view, 'only', above.paths))));
    if (view.hidden)
      offers.push(offer('hidden-of', 'Hidden lines of this item only', () => put('Hidden lines of one item', { ...view, hiddenOf: pathsOf(item) })));
    if (view.hiddenOf) offers.push(offer('hidden-all', 'Hidden lines of all', () => put('Hidden lines of all', without(view, 'hiddenOf'))));
    const colored = view.pens?.some((p) => p.of.includes(path)) ?? false;
    offers.push(
      offer('pen', colored ? 'Usual lines for this item' : 'Wide coloured lines for this item', () =>
        put('Pen', withPen(view, pathsOf(item), colored ? undefined : PEN)),
      ),
    );
  }
  const balloons = scene.all('balloon').filter((b) => b.view === view.id && scene.itemAt(b.component) === item);
  if (balloons.length)
    offers.push(offer('its-balloons', `Select its balloon${balloons.length > 1 ? 's' : ''} here`, () => drawing.choose(balloons.map((b) => b.id))));
  const more = `More for item ${numberText(item)}`;
  return {
    title: `Item ${numberText(item)}  ${item.values.description.text}`,
    offers: offers.map((o) => (EVERYDAY.has(o.id) ? o : { ...o, under: more })),
  };
}

/** What is done with a component every day; the rest stands behind one entry. */
const EVERYDAY: ReadonlySet<string> = new Set(['balloon-here', 'through-level', 'through-upright', 'whole', 'hide', 'only']);

/** What can be done with a cutting line. */
export function sectionOffers(drawing: Drawing, tools: Tools, section: ViewRecord): Action[] {
  const { cut } = section;
  return [
    offer('go', `Go to ${section.name}`, () => {
      drawing.sheetId = section.sheet;
      drawing.select({ kind: 'record', id: section.id });
    }),
    offer('round', 'Turn the section round', () => tools.sections.turnRound(section), 'U'),
    offer('hide-line', 'Leave the cutting line out', () => {
      if (cut) drawing.edit('Cutting line off', [{ op: 'put', record: { ...section, cut: { ...cut, shownIn: null } } }]);
    }),
    offer('remove-section', `Remove ${section.name}`, () => drawing.edit(`Remove ${section.name}`, removed(drawing.scene, [section.id]))),
  ];
}
