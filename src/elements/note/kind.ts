import type { Vec2 } from '../../core/base/vector.ts';
import type { Kind } from '../kind.ts';
import { followTarget, isLost, pathOfTarget } from '../target.ts';
import { drawNote, heightOf } from './draw.ts';
import type { NoteRecord } from './words.ts';

/** Notes on a sheet or beside a view, with leaders to what they speak of. */
export const noteKind: Kind<NoteRecord> = {
  title: 'note',
  layer: 4.5,
  draw: drawNote,

  handles(record, scene) {
    const view = scene.one('view', record.view);
    if (!view) return [];
    const map = scene.map(view);
    return (record.leaders ?? []).flatMap((l, i) => (l.to.at ? [{ name: `leader-${i}`, at: map.toPaper(l.to.at) }] : []));
  },

  drag(record, by, scene, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...record, at: [record.at[0] + by[0], record.at[1] + by[1]] } }];
    const view = scene.one('view', record.view);
    const index = Number(/^leader-(\d+)$/.exec(handle)?.[1] ?? -1);
    const leader = record.leaders?.[index];
    if (!view || !leader?.to.at) return [];
    const map = scene.map(view);
    const from = map.toPaper(leader.to.at);
    const at: Vec2 = map.toView([from[0] + by[0], from[1] + by[1]]);
    return [{ op: 'put', record: { ...record, leaders: record.leaders!.map((l, i) => (i === index ? { ...l, to: { ...l.to, at } } : l)) } }];
  },

  texts(record, scene) {
    const [drawn] = drawNote(record, scene);
    // A line is edited where it stands, several in the slip.
    if (!drawn || record.text.includes('\n')) return [];
    const box = drawn.grab!;
    return [
      {
        name: 'text',
        label: 'Text of the note',
        box: { ...box, width: Math.max(box.width, 40) },
        height: heightOf(record, scene),
        value: record.text,
        write: (text) => (text.trim() === '' ? [{ op: 'drop', id: record.id }] : [{ op: 'put', record: { ...record, text } }]),
      },
    ];
  },

  follow(record, change) {
    if (!record.view) return record;
    const { view } = record;
    const [first] = record.leaders ?? [];
    const leaders = record.leaders?.map((l) => {
      const to = followTarget(l.to, view, change);
      return to === l.to ? l : { ...l, to };
    });
    const at = change.offset(view, record.at, first && pathOfTarget(first.to));
    const same = at[0] === record.at[0] && at[1] === record.at[1] && (leaders ?? []).every((l, i) => l === record.leaders![i]);
    return same ? record : { ...record, at, ...(leaders ? { leaders } : {}) };
  },

  findings(records, sheet) {
    return records
      .filter((r) => (r.leaders ?? []).some((l) => isLost(l.to)))
      .map((r) => ({
        code: 'LOST_TARGET',
        severity: 'trouble',
        sheet,
        about: [r.id],
        text: `The note “${r.text.slice(0, 40)}” points at something that has another shape now. Drag its leader to the new place.`,
      }));
  },
};
