import type { DrawingDocument } from '$core/document/records';
import type { Proved } from '$core/proof/prover';

/** What is open about something: how it is counted, and what is said of it first. */
export interface Mark {
  readonly must: number;
  readonly should: number;
  readonly first: string;
}

export interface Marks {
  /** By id of the sheet, and of the view that it is in. */
  readonly sheets: ReadonlyMap<string, Mark>;
  readonly views: ReadonlyMap<string, Mark>;
  /** By number of the item; what its row says by itself, gaps of the list, is left out. */
  readonly items: ReadonlyMap<number, Mark>;
}

export const NO_MARKS: Marks = { sheets: new Map(), views: new Map(), items: new Map() };

/** Where open findings that must or should be put right are. */
export function marksOf(proved: Proved, document: DrawingDocument): Marks {
  const [sheets, views, items] = [new Map<string, Mark>(), new Map<string, Mark>(), new Map<number, Mark>()];
  const count = <K>(map: Map<K, Mark>, key: K, must: boolean, text: string) => {
    const m = map.get(key) ?? { must: 0, should: 0, first: text };
    map.set(key, { must: m.must + Number(must), should: m.should + Number(!must), first: must && m.must === 0 ? text : m.first });
  };
  for (const f of proved.findings) {
    if (f.accepted || f.severity === 'look' || f.code === 'VIEW_MISSING') continue;
    const must = f.severity === 'must';
    if (f.sheet !== null) count(sheets, f.sheet, must, f.text);
    const ofViews = new Set(
      f.about.flatMap((id) => {
        const record = document[id.split('/')[0]!];
        if (record?.type === 'view') return [record.id];
        return record && 'view' in record && typeof record.view === 'string' ? [record.view] : [];
      }),
    );
    for (const v of ofViews) count(views, v, must, f.text);
    if (f.code !== 'LIST_GAP') for (const i of f.items) count(items, i, must, f.text);
  }
  return { sheets, views, items };
}

/** “2 must, 1 should: …” */
export const markText = ({ must, should, first }: Mark): string =>
  `${[must && `${must} must`, should && `${should} should`].filter(Boolean).join(', ')}: ${first}`;
