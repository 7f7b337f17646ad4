import { formatToChange } from '../../../core/format/apply';
import type { Drawing } from '$lib/shared/drawing.svelte';

/** Opens the canvas of the format that a sheet lies on; of what comes with the application a copy is made first. @param alone only this sheet follows */
export function changeFormat(drawing: Drawing, sheet: string, alone: boolean): void {
  const { steps, id } = formatToChange(drawing.scene, sheet, (base) => drawing.freshId(base), alone);
  drawing.edit('A format of one’s own', steps);
  drawing.select({ kind: 'none' });
  drawing.sheetId = id;
}

/** Back from a format's canvas to a sheet that lies on it. */
export function leaveFormat(drawing: Drawing): void {
  const format = drawing.sheetId;
  drawing.select({ kind: 'none' });
  drawing.sheetId = (drawing.sheets.find((s) => s.format === format) ?? drawing.sheets[0])?.id ?? '';
}
