import type { Action } from '$lib/shared/action';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Tools } from '$lib/sheets/tools.svelte';
import type { ViewRecord } from '../../../core/document/records';
import { frontOf } from '../../../core/document/front';
import { DIRECTION_NAMES, sameFrame, sideFrame, type ViewFrame } from '../../../core/outline/directions';
import { without } from '../../../core/base/without';
import { arrangeSheet } from '../arrange-sheet';
import { scaleView } from '../../../core/document/moves';
import { scaleText } from '../../../core/sheet/paper';
import { resetFront, whatTurns } from '../front';
import { largestScale } from '../scale';
import { newView } from '../add';
import { removed, withProjected } from '../../remove';
import { lettersOf, nextLetter } from '../letters';
import { halved } from '../settings';
import { chosenSteps, showing, withFaint, withShown } from '../shows';
import { pictorialOfCut, toggledHalf } from '../sections';

/**
 * Puts a view on the open sheet where there is room for it.
 * @param like what it takes over from another view
 * @param spread that it shows; null: everything together
 */
export function addView(drawing: Drawing, name: string, frame: ViewFrame, spread: string | null, like?: ViewRecord): void {
  const id = drawing.freshId(`view:${name.toLowerCase().replace(/[^a-z]+/g, '-')}`);
  const { record, free } = newView(drawing.scene, { id, name, sheet: like?.sheet ?? drawing.sheetId, frame, spread, like });
  drawing.edit(`Add view ${name}`, [{ op: 'put', record }]);
  drawing.select({ kind: 'record', id });
  if (!free) notify('trouble', 'There is no free room on this sheet. The view stands where it covers least: move it, or take a larger sheet.');
}

/** From a full section to a half one and back. */
export function toggleHalf(drawing: Drawing, view: ViewRecord): void {
  if (view.cut) drawing.edit(view.cut.shape ? 'Full section' : 'Half section', [{ op: 'put', record: toggledHalf(view) }]);
}

/** What is chosen of the components of a view by what is selected: in a view, in the ledger, in the tree. */
function choices(drawing: Drawing, tools: Tools): Action[] {
  const s = drawing.selection;
  const { scene } = drawing;
  const item = s.kind === 'item' ? drawing.items.find((i) => i.part === s.part) : undefined;
  const here = scene.one('sheet', drawing.sheetId) ? scene.viewsOn(drawing.sheetId) : [];
  // What was selected in the ledger is meant for the only view of the sheet, if there is but one.
  const view = tools.activeView ?? (here.length === 1 ? here[0] : undefined);
  const paths = item?.components.map((c) => drawing.components[c]!.path) ?? [];
  const action = (id: string, label: string, make: (v: ViewRecord) => ViewRecord): Action => ({
    id,
    label,
    key: '',
    disabled: !view || !item || view.detail !== undefined,
    run: () => view && drawing.edit(`${label} in ${view.name}`, chosenSteps(scene, view, make(view))),
  });
  const faint = view?.faint?.some((p) => paths.includes(p)) ?? false;
  return [
    action('hide-item', 'Hide the item', (v) => withShown(v, scene, paths, false)),
    action('only-item', 'Show only the item', (v) => showing(v, 'only', paths)),
    action('faint-item', faint ? 'Show the item in full' : 'Show the item faint', (v) => withFaint(v, paths, !faint)),
  ];
}

export function viewActions(drawing: Drawing, tools: Tools): Action[] {
  const s = drawing.selection;
  const view = tools.activeView;
  const { sections } = tools;
  const here = drawing.scene.one('sheet', drawing.sheetId) ? drawing.scene.viewsOn(drawing.sheetId) : [];
  const hiddenHere = here.filter((v) => v.off);
  const component = s.kind === 'item' ? (s.component ?? drawing.items.find((i) => i.part === s.part)?.components[0]) : undefined;
  const toggle = (key: 'hidden' | 'tangent' | 'shaded' | 'label', label: string, letter: string): Action => ({
    id: key,
    label: `${label} ${view?.[key] ? 'off' : 'on'}`,
    key: letter,
    disabled: !view,
    run: () => view && drawing.edit(`${label} ${view[key] ? 'off' : 'on'}`, [{ op: 'put', record: { ...view, [key]: !view[key] } }]),
  });
  const through = (id: string, upright: boolean): Action => ({
    id,
    label: `Section through what is selected, ${id}`,
    key: '',
    disabled: !view || component === undefined,
    run: () => view && component !== undefined && void sections.through(view, component, upright),
  });
  return [
    tools.action('place', { label: 'Place a view: choose a side, press where it goes', short: 'View', key: 'W', group: 'View' }),
    tools.action('project', { label: 'Pull a neighbour out of a view', short: 'Neighbour', key: 'J', group: 'View' }),
    tools.action('detail', { label: 'Detail: draw around what is small', short: 'Detail', key: 'Z', group: 'View' }),
    tools.action('interrupt', { label: 'Interrupt a view: leave a stretch out', short: 'Interrupt', key: 'Q', group: 'View' }),
    tools.action('partial', { label: 'Show only a part of a view', short: 'Part', key: 'Y', group: 'View' }),
    { ...tools.action('thread', { label: 'Screw thread: press a cylinder', key: '6' }), shelf: false },
    tools.action('section', { label: 'Cutting line on a view: a section', short: 'Section', key: 'N', group: 'Cut' }),
    tools.action('break', { label: 'Broken-out section: draw around it', short: 'Break out', key: 'O', group: 'Cut' }),
    {
      ...tools.action('depth', { label: 'Depth of a break: press it in another view', short: 'Depth', key: '', group: 'Cut' }),
      disabled: view?.cut?.shape?.kind !== 'local',
    },
    ...(['left', 'right', 'upper', 'lower'] as const).map((half): Action => ({
      id: `half-${half}`,
      label: `Show the ${half} half of a symmetric view`,
      key: '',
      disabled: !view || view.detail !== undefined || !drawing.scene.whole(view.id),
      run: () => {
        const whole = view && drawing.scene.whole(view.id);
        if (whole) drawing.edit(`${half[0]!.toUpperCase()}${half.slice(1)} half`, [{ op: 'put', record: halved(view, whole, half) }]);
      },
    })),
    {
      id: 'whole-view',
      label: 'Show the whole view, without outline and gaps',
      key: '',
      disabled: !view || view.detail !== undefined || (!view.within && !view.gaps),
      run: () => view && drawing.edit('Show the whole view', [{ op: 'put', record: without(view, 'within', 'border', 'gaps', 'gapMm', 'breaks') }]),
    },
    {
      id: 'show-all',
      label: 'Show all components in this view',
      key: '',
      disabled: !view?.shows && !view?.faint,
      run: () => view && drawing.edit('Show all components', chosenSteps(drawing.scene, view, without(showing(view, 'all'), 'faint'))),
    },
    { ...tools.action('hand-line', { label: 'Pull line by hand: press two places', key: '' }), shelf: false },
    {
      id: 'hand-lines-off',
      label: 'Remove the pull lines drawn by hand in this view',
      key: '',
      disabled: !view?.handLines,
      run: () => view && drawing.edit('Remove pull lines', [{ op: 'put', record: without(view, 'handLines') }]),
    },
    {
      id: 'largest',
      label: 'Largest scale at which this view fits where it is',
      key: '',
      disabled: !view || !drawing.scene.result(view.id),
      run: () => {
        const s = view && largestScale(drawing.scene, view);
        if (view && s) drawing.edit(`Scale ${scaleText(s)}`, scaleView(drawing.document, view.id, s));
        else notify('trouble', 'No standard scale fits here: make room around the view.');
      },
    },
    {
      id: 'arrange-sheet',
      label: 'Arrange the views of this sheet',
      key: 'E',
      disabled: here.length === 0,
      run: () => {
        const steps = arrangeSheet(drawing.scene, drawing.sheetId, new Set(here.filter((v) => v.locked).map((v) => v.id)));
        if (steps) drawing.edit('Arrange the sheet', steps);
        else notify('trouble', 'There is no room to stand the views 15 mm apart. Take a larger sheet or a smaller scale.');
      },
    },
    {
      id: 'lock',
      label: view?.locked ? 'Let this view be arranged' : 'Lock the place of this view',
      key: '',
      disabled: !view,
      run: () =>
        view && drawing.edit(view.locked ? 'Unlock' : 'Lock', [{ op: 'put', record: view.locked ? without(view, 'locked') : { ...view, locked: true } }]),
    },
    {
      id: 'view-off',
      label: 'Hide this view; what was projected from it stays',
      key: '',
      disabled: !view,
      run: () => {
        if (!view) return;
        drawing.edit(`Hide ${view.name}`, [{ op: 'put', record: { ...view, off: true } }]);
        drawing.select({ kind: 'none' });
      },
    },
    {
      id: 'views-on',
      label: 'Show the hidden views of this sheet',
      key: '',
      disabled: !hiddenHere.length,
      run: () =>
        drawing.edit(
          'Show hidden views',
          hiddenHere.map((v) => ({ op: 'put', record: without(v, 'off') })),
        ),
    },
    {
      id: 'remove-projected',
      label: 'Remove this view with all that was projected from it',
      key: '',
      disabled: !view,
      run: () => view && drawing.edit(`Remove ${view.name} and its neighbours`, removed(drawing.scene, withProjected(drawing.scene, view.id))),
    },
    {
      id: 'arrow',
      label: view?.arrow ? 'No arrow for this view on its parent' : 'Arrow and letter for this view on its parent',
      key: '',
      disabled: !view?.parent || view.cut !== null,
      run: () => {
        if (!view) return;
        const record = view.arrow ? without(view, 'arrow') : { ...view, arrow: nextLetter(lettersOf(drawing.scene)), label: true };
        drawing.edit('Arrow and letter', [{ op: 'put', record }]);
      },
    },
    ...choices(drawing, tools),
    {
      id: 'finish',
      label: 'End the cutting line',
      key: 'Enter',
      disabled: sections.points.length < 2 || tools.tool !== 'section',
      run: () => void sections.finish(),
    },
    through('level', false),
    through('upright', true),
    { id: 'round', label: 'Turn the section round', key: 'U', disabled: !view?.cut, run: () => view && sections.turnRound(view) },
    ...DIRECTION_NAMES.map((name) => ({
      id: `view-${name}`,
      label: `Add a view: ${name}`,
      key: '',
      run: () => addView(drawing, name[0]!.toUpperCase() + name.slice(1), sideFrame(frontOf(drawing.document), name), null),
    })),
    {
      id: 'as-front',
      label: 'Make the side that this view shows the front of the drawing',
      key: '',
      disabled: !view || view.detail !== undefined || view.laid !== undefined || sameFrame(view, frontOf(drawing.document)),
      run: () => {
        if (!view) return;
        const turns = whatTurns(drawing.document);
        drawing.edit(
          'Another front',
          resetFront(drawing.document, drawing.assembly, drawing.components, { right: view.right, up: view.up, toward: view.toward }),
        );
        notify('good', `The front is another side now: ${turns}. Undo takes it back.`);
      },
    },
    {
      id: 'together',
      label: 'Add this view with its parts together',
      key: '',
      disabled: !view?.spread,
      run: () => view && addView(drawing, `${view.name}, together`, view, null, view),
    },
    {
      id: 'pictorial-cut',
      label: 'Add a pictorial of this cut',
      key: '',
      disabled: !view?.cut || view.cut.shape?.kind === 'local' || view.detail !== undefined,
      run: () => {
        const made = view && pictorialOfCut(drawing.scene, view, drawing.freshId('view:pictorial'));
        if (!made) return;
        drawing.edit('Pictorial of the cut', [{ op: 'put', record: made.record }]);
        drawing.select({ kind: 'record', id: made.record.id });
        if (!made.free) notify('trouble', 'There is no free room on this sheet. The view stands where it covers least: move it, or take a larger sheet.');
      },
    },
    toggle('hidden', 'Hidden lines', 'H'),
    toggle('tangent', 'Tangent edges', 'G'),
    toggle('shaded', 'Shading', 'D'),
    toggle('label', 'Label', 'A'),
    {
      id: 'half',
      label: view?.cut?.shape ? 'Full section' : 'Half section',
      key: 'X',
      disabled: !view?.cut,
      run: () => view && toggleHalf(drawing, view),
    },
  ];
}
