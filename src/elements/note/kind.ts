import type { Kind } from '../kind.ts';
import { draggedLeader, followWithLeaders, leaderHandles, lostLeaders } from '../leader.ts';
import { drawNote, heightOf } from './draw.ts';
import type { Finding } from '../../core/proof/finding.ts';
import { emptyFields, type NoteRecord } from './words.ts';

/** Notes on a sheet or beside a view, with leaders to what they speak of. */
export const noteKind: Kind<NoteRecord> = {
  title: 'note',
  layer: 4.5,
  draw: drawNote,

  handles(record, scene) {
    return leaderHandles(record.leaders, scene.one('view', record.view), scene);
  },

  drag(record, by, scene, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...record, at: [record.at[0] + by[0], record.at[1] + by[1]] } }];
    const leaders = draggedLeader(record.leaders, handle, by, scene.one('view', record.view), scene);
    return leaders ? [{ op: 'put', record: { ...record, leaders } }] : [];
  },

  texts(record, scene) {
    const [drawn] = drawNote(record, scene);
    if (!drawn) return [];
    const box = drawn.grab!;
    return [
      {
        name: 'text',
        label: 'Text of the note',
        box: { ...box, width: Math.max(box.width, 40) },
        height: heightOf(record, scene),
        value: record.text,
        lines: 'note',
        write: (text) => (text.trim() === '' ? [{ op: 'drop', id: record.id }] : [{ op: 'put', record: { ...record, text } }]),
      },
    ];
  },

  follow(record, change) {
    return followWithLeaders(record, change);
  },

  findings(records, sheet, scene) {
    const lost: Finding[] = records
      .filter((r) => lostLeaders(r.leaders).length > 0)
      .map((r) => ({
        code: 'LOST_TARGET',
        severity: 'must',
        sheet,
        about: [r.id],
        text: `The note “${r.text.slice(0, 40)}” points at something that has another shape now. Drag its leader to the new place.`,
      }));
    const empty = records.flatMap((r): Finding[] => {
      const { without, unknown } = emptyFields(r, scene);
      const said = `The note “${r.text.slice(0, 40)}”`;
      return [
        ...(without.length
          ? [
              {
                code: 'FIELD_EMPTY',
                severity: 'must',
                sheet,
                about: [r.id],
                text: `${said}: there is no value for ${without.join(', ')}, so nothing is printed for it.`,
              } as const,
            ]
          : []),
        ...(unknown.length
          ? [
              {
                code: 'FIELD_EMPTY',
                severity: 'should',
                sheet,
                about: [r.id],
                text: `${said}: ${unknown.join(', ')} is no field and is printed as typed.`,
              } as const,
            ]
          : []),
      ];
    });
    return [...lost, ...empty];
  },
};
