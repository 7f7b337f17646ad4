import { goto } from '$app/navigation';
import type { Drawing, Selection } from './drawing.svelte';

const key = (job: string) => `select:${job}`;

/** Opens a sheet with something selected on it. */
export function openSheetAt(drawing: Drawing, sheet: string, selection: Selection): void {
  sessionStorage.setItem(`sheet:${drawing.id}`, sheet);
  sessionStorage.setItem(key(drawing.id), JSON.stringify(selection));
  void goto(`/jobs/${drawing.id}/sheets`);
}

/** Selects what another stage sent the user here for. */
export function chooseFromAddress(drawing: Drawing): void {
  const text = sessionStorage.getItem(key(drawing.id));
  if (text === null) return;
  sessionStorage.removeItem(key(drawing.id));
  drawing.select(JSON.parse(text) as Selection);
}
