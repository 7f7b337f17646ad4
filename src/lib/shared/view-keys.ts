import type { Look } from './Stage3d.svelte';

const STEP = 0.12;
const ZOOM = 1.2;

/** Arrow keys turn the model, plus and minus zoom. @returns what the key does, if anything */
export function viewKey(look: Look | undefined, e: KeyboardEvent): (() => void) | undefined {
  if (!look || e.ctrlKey || e.metaKey) return undefined;
  switch (e.key) {
    case 'ArrowLeft':
      return () => look.turn(-STEP, 0);
    case 'ArrowRight':
      return () => look.turn(STEP, 0);
    case 'ArrowUp':
      return () => look.turn(0, -STEP);
    case 'ArrowDown':
      return () => look.turn(0, STEP);
    case '+':
    case '=':
      return () => look.zoom(ZOOM);
    case '-':
      return () => look.zoom(1 / ZOOM);
  }
  return undefined;
}
