/** Something the user can do: it has a name, a key, and a place on the shelf or in the quick bar. */
export interface Action {
  readonly id: string;
  readonly label: string;
  readonly short?: string;
  /** As shown: `Ctrl Z`, `B`. */
  readonly key: string;
  readonly on?: boolean | undefined;
  readonly disabled?: boolean;
  readonly shelf?: boolean;
  /** On the shelf it stands behind the button of this group. */
  readonly group?: string;
  /** In a menu it stands behind the entry of this name. */
  readonly under?: string;
  readonly run: () => void;
}

/** Controls that letters go into: not those that are only ticked, pressed or dragged. */
const TAKES_TEXT = `input${['checkbox', 'radio', 'button', 'range', 'color', 'file'].map((t) => `:not([type=${t}])`).join('')}, textarea, select, [contenteditable]`;
/** Is someone writing? */
export const isTyping = (e: KeyboardEvent): boolean => (e.target as HTMLElement).closest(TAKES_TEXT) !== null;

/** A letter or a digit by itself. */
export const isLetter = (e: KeyboardEvent): boolean => /^[\p{L}\p{N}]$/u.test(e.key) && !e.ctrlKey && !e.metaKey && !e.altKey;

/** A key by itself, pressed while nobody types. */
export const plainKey = (e: KeyboardEvent): string | undefined => (e.ctrlKey || e.metaKey || e.altKey || isTyping(e) ? undefined : e.key);

/** The action that a key press means, if any. Keys do nothing while someone types. */
export function actionFor(actions: readonly Action[], e: KeyboardEvent): Action | undefined {
  const typing = isTyping(e);
  const command = e.ctrlKey || e.metaKey;
  // Shift with a letter or a sign is that sign.
  const shift = e.shiftKey && (command || e.altKey || e.key.length > 1);
  const name = [command ? 'Ctrl' : '', e.altKey ? 'Alt' : '', shift ? 'Shift' : '', e.key.length === 1 ? e.key.toUpperCase() : e.key].filter(Boolean).join(' ');
  if (typing && name !== 'Ctrl K') return undefined;
  const wanted = name === 'Ctrl Y' ? 'Ctrl Shift Z' : name === '=' ? '+' : name;
  return actions.find((a) => a.key === wanted && !a.disabled);
}
