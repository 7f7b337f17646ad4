import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import type { Grid } from './grid.svelte';

/** Everything that can be done in the Model stage as things stand. */
export function modelActions(drawing: Drawing, grid: Grid, quick: () => void, newer: () => void, solid: () => void): Action[] {
  const download = (name: string) => () => {
    location.href = `/api/jobs/${drawing.id}/files/${name}`;
  };
  return [
    { id: 'gap', label: 'Next gap', key: 'Ctrl Enter', disabled: grid.gapCount === 0, run: () => grid.nextGap() },
    { id: 'gaps', label: grid.gapsOnly ? 'Show every part' : 'Show only parts with gaps', key: '', run: () => grid.setGapsOnly(!grid.gapsOnly) },
    { id: 'fill', label: 'Fill down', key: 'Ctrl D', run: () => grid.fillDown() },
    { id: 'back', label: 'Put back what is chosen', key: 'Delete', run: () => grid.putBack() },
    { id: 'solid', label: '3D view on or off', key: 'Ctrl 3', run: solid },
    { id: 'newer', label: 'Bring in a newer model', key: '', run: newer },
    { id: 'csv', label: 'Properties as CSV', key: '', run: download('properties.csv') },
    { id: 'xlsx', label: 'Properties as XLSX', key: '', run: download('properties.xlsx') },
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: quick },
  ];
}
