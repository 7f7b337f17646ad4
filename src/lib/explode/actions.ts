import type { Action } from '../shared/action';
import type { Explode } from './explode.svelte';
import { plan, proposeDirections, tighten, untilClear } from './planning';
import { addPull, addTurn, bend, holdTogether, mirror, removePull, spaceEvenly } from './pull-edits';
import { duplicate, newSpread } from './spreads';

export interface ExplodeHands {
  readonly fit: (what: 'all' | 'chosen') => void;
  readonly toggle: () => void;
  readonly step: (by: 1 | -1) => void;
}

/** Everything that can be done in the Explode stage as things stand. */
export function explodeActions(explode: Explode, hands: ExplodeHands): Action[] {
  const { drawing } = explode;
  const n = explode.chosen.size;
  const at = explode.active;
  const none = explode.made.length === 0;
  const file = (name: string) => `/api/jobs/${drawing.id}/files/${name}?spread=${encodeURIComponent(explode.spread?.id ?? '')}`;
  return [
    { id: 'plan', label: 'Plan the whole', short: 'Plan', key: 'P', shelf: true, run: () => void plan(explode, 'all') },
    { id: 'rest', label: 'Plan what has no pull yet', short: 'Plan rest', key: 'R', shelf: true, run: () => void plan(explode, 'rest') },
    { id: 'pull', label: 'Pull what is picked', short: 'Pull', key: 'G', shelf: true, disabled: n === 0, run: () => void addPull(explode) },
    { id: 'turn', label: 'Turn what is picked about the picked axis', short: 'Turn', key: 'U', shelf: true, disabled: n === 0, run: () => addTurn(explode) },
    { id: 'tighten', label: 'Tighten to fit the sheet', short: 'Tighten', key: 'T', shelf: true, disabled: none, run: () => void tighten(explode) },
    {
      id: 'lines',
      label: 'Pull lines on or off',
      short: 'Pull lines',
      key: 'L',
      shelf: true,
      on: !explode.spread?.noLines,
      disabled: !explode.spread,
      run: () => explode.put('Pull lines', { noLines: !explode.spread!.noLines }),
    },
    {
      id: 'hold',
      label: 'Hold together what is picked, or let it go',
      short: 'Hold together',
      key: 'H',
      shelf: true,
      disabled: n < 2,
      run: () => holdTogether(explode),
    },
    { id: 'item', label: 'Pick all of the item', key: 'I', disabled: n === 0, run: () => explode.grow('item') },
    { id: 'up', label: 'Pick the sub-assembly', key: 'A', disabled: n === 0, run: () => explode.grow('up') },
    ...[1, 2, 3].map((level) => ({
      id: `level${level}`,
      label: `Pick everything on level ${level} of the tree`,
      key: '',
      run: () => explode.chooseLevel(level),
    })),
    { id: 'fastened', label: 'Pick what fastens it', key: 'J', disabled: n === 0, run: () => explode.grow('fastened') },
    { id: 'clear', label: 'Pull until clear', key: 'C', disabled: at === undefined, run: () => void untilClear(explode, at!) },
    { id: 'even', label: 'Space evenly', key: 'E', disabled: at === undefined, run: () => spaceEvenly(explode, at!) },
    { id: 'mirror', label: 'Copy pull to the other side', key: 'M', disabled: at === undefined, run: () => mirror(explode, at!) },
    {
      id: 'bend',
      label: 'Bend: a second pull to the side',
      key: 'B',
      disabled: at === undefined || explode.pull?.turn !== undefined,
      run: () => bend(explode, at!),
    },
    { id: 'remove', label: 'Remove pull', key: 'Delete', disabled: at === undefined, run: () => removePull(explode, at!) },
    { id: 'play', label: 'Play or pause', key: ' ', disabled: none, run: hands.toggle },
    { id: 'back', label: 'One pull back', key: ',', disabled: none, run: () => hands.step(-1) },
    { id: 'on', label: 'One pull on', key: '.', disabled: none, run: () => hands.step(1) },
    { id: 'fit', label: 'Show everything', key: 'F', run: () => hands.fit('all') },
    { id: 'fitChosen', label: 'Show what is picked', key: 'S', disabled: n === 0, run: () => hands.fit('chosen') },
    { id: 'new', label: 'New spread', key: 'N', run: () => newSpread(explode) },
    { id: 'duplicate', label: 'Duplicate spread', key: '', disabled: !explode.spread, run: () => duplicate(explode) },
    { id: 'directions', label: 'Direction of view in which least is hidden', key: 'D', disabled: none, run: () => void proposeDirections(explode) },
    { id: 'glb', label: 'Download the animated model, GLB', key: '', disabled: none, run: () => (location.href = file('apart.glb')) },
    { id: 'steps', label: 'Download a picture per step', key: '', disabled: none, run: () => (location.href = file('steps.zip')) },
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (explode.quickBar = true) },
  ];
}
