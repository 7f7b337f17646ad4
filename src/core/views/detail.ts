import { without } from '../base/without.ts';
import type { DrawingDocument, ViewRecord } from '../document/records.ts';

/** Details of details go so deep. */
const DEEPEST = 8;

/**
 * A view as it is seen: a detail takes direction, cut, spread and components from the view that it is a detail of, so that
 * it needs nothing computed and follows whatever happens to that view. Other views are what they are.
 */
export function seenAs(view: ViewRecord, doc: DrawingDocument, deep = 0): ViewRecord {
  const of = view.detail?.of;
  const source = of ? doc[of] : undefined;
  if (source?.type !== 'view' || deep > DEEPEST) return view;
  const { right, up, toward, cut, spread, pullLines, linesOff, second, shows, faint, hatch } = seenAs(source, doc, deep + 1);
  return {
    ...without(view, 'linesOff', 'second', 'shows', 'faint', 'hatch'),
    right,
    up,
    toward,
    cut,
    spread,
    pullLines,
    ...(linesOff ? { linesOff } : {}),
    ...(second ? { second } : {}),
    ...(shows ? { shows } : {}),
    ...(faint ? { faint } : {}),
    ...(hatch ? { hatch } : {}),
  };
}
