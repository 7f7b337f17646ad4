import type { CutRecord, ViewRecord } from '../../core/document/records.ts';

/**
 * A view broken out inside one more outline, down to a depth; breaks that it has already stay.
 * @param outline closed, flat, view space, model mm
 * @param d of the bottom along the line of sight, mm
 * @param keptWhole paths of components that stay uncut besides those that do already
 */
export function brokenOut(view: ViewRecord, outline: readonly number[], d: number, keptWhole: readonly string[]): ViewRecord {
  const shape = view.cut?.shape;
  if (view.cut && shape?.kind === 'local') {
    const kept = [...new Set([...view.cut.keptWhole, ...keptWhole])];
    return { ...view, cut: { ...view.cut, keptWhole: kept, shape: { ...shape, more: [...(shape.more ?? []), { outline, d }] } } };
  }
  const cut: CutRecord = { normal: view.toward, d, letter: '', keptWhole, shape: { kind: 'local', outline }, shownIn: null };
  return { ...view, cut };
}

/** Each break of a view: its bottom, and the view with another one. */
export function breaksOf(view: ViewRecord): { readonly d: number; set(d: number): ViewRecord; remove(): ViewRecord }[] {
  const { cut } = view;
  const shape = cut?.shape;
  if (!cut || shape?.kind !== 'local') return [];
  const { more = [], ...first } = shape;
  const all = [{ outline: first.outline, d: cut.d }, ...more];
  const rebuilt = (list: readonly { readonly outline: readonly number[]; readonly d: number }[]): ViewRecord => {
    const [one, ...rest] = list;
    if (!one) return { ...view, cut: null };
    return { ...view, cut: { ...cut, d: one.d, shape: { kind: 'local', outline: one.outline, ...(rest.length ? { more: rest } : {}) } } };
  };
  return all.map((b, i) => ({
    d: b.d,
    set: (d) => rebuilt(all.map((o, k) => (k === i ? { ...o, d } : o))),
    remove: () => rebuilt(all.filter((_, k) => k !== i)),
  }));
}
