import type { DisplayItem } from '$core/picture/display-list';

/** A path as long as this is closed: a painter looks at the whole of a path for every piece of the screen. */
const LONGEST = 20_000;

/** Strokes of one pen that follow each other as one: a view has one per component, a thousand elements where ten do. */
export function inOnePath(items: readonly DisplayItem[], longest = LONGEST): DisplayItem[] {
  const out: DisplayItem[] = [];
  let run: Extract<DisplayItem, { kind: 'stroke' }> | undefined;
  let d: string[] = [];
  let length = 0;
  const close = () => {
    if (run) out.push({ kind: 'stroke', d: d.join(''), width: run.width, ...(run.dash ? { dash: run.dash } : {}), ...(run.color ? { color: run.color } : {}) });
    [run, d, length] = [undefined, [], 0];
  };
  for (const i of items) {
    if (i.kind !== 'stroke') {
      close();
      out.push(i);
      continue;
    }
    if (run && (i.width !== run.width || i.dash !== run.dash || i.color !== run.color || length + i.d.length > longest)) close();
    run ??= i;
    d.push(i.d);
    length += i.d.length;
  }
  close();
  return out;
}
