import type { Face } from '../../face';
import { notesPlace } from '../../sheet/anchored-on';
import { calloutOf, type NoteRecord } from '../words';
import { LeaderTool } from './leader-tool.svelte';
import { PointingTool, type Spot } from './pointing-tool.svelte';
import Slip from './Slip.svelte';

const noteSaying =
  (text: string) =>
  (id: string, spot: Spot): NoteRecord => ({ type: 'note', id, ...spot, text });

/** Callouts are notes that say what they point at. */
const CALLOUTS = [
  ['hole-note', 'hole', 'Hole callout: press a hole, then where it stands', 'Hole', '5', 'A hole callout speaks of a hole: press the edge of one.'],
  [
    'thread-note',
    'thread',
    'Thread callout: press a thread, then where it stands',
    'Thread callout',
    '',
    'A thread callout speaks of a thread: press the edge of one. Screw thread (6) puts a thread on a cylinder.',
  ],
] as const;

/** General notes of a format without a place for them stand so far from the frame, mm. */
const BESIDE_FRAME_MM = 5;
const GENERAL_NOTES = '*Notes*\n1. Unless stated otherwise, dimensions are in {unit}.';

export const noteFace: Face<NoteRecord> = {
  slip: Slip,
  actions(drawing, tools) {
    const [only] = drawing.chosen;
    const pointing = drawing.scene.one('note', only) ?? drawing.scene.one('sign', only);
    return [
      tools.action('note', { label: 'Note: press what it speaks of, then where it stands', short: 'Note', key: '4', group: 'Note' }),
      {
        id: 'general-notes',
        label: 'General notes, where the format keeps them',
        short: 'General notes',
        key: '',
        group: 'Note',
        run: () => {
          const sheet = drawing.scene.one('sheet', drawing.sheetId);
          if (!sheet) return;
          const { frame } = drawing.scene.page(sheet.id).geometry;
          const at = notesPlace(drawing.scene, sheet) ?? [frame.x + BESIDE_FRAME_MM, frame.y + BESIDE_FRAME_MM];
          const record: NoteRecord = { type: 'note', id: drawing.freshId('note'), view: null, sheet: sheet.id, at, text: GENERAL_NOTES };
          drawing.edit('General notes', [{ op: 'put', record }]);
          drawing.select({ kind: 'record', id: record.id });
        },
      },
      ...CALLOUTS.map(([name, , label, short, key]) => tools.action(name, { label, short, key, group: 'Note' })),
      {
        ...tools.action('note-leader', { label: 'One more leader for the note or sign that is selected', short: 'Leader', key: '', group: 'Note' }),
        disabled: !pointing?.view,
      },
    ];
  },
  tools: (drawing, tools) => [
    new PointingTool(drawing, {
      name: 'note',
      title: 'Note',
      points: 'maybe',
      make: noteSaying('Note'),
      done: (record) => {
        tools.take('pick');
        tools.editing = { record: record.id, name: 'text' };
      },
    }),
    ...CALLOUTS.map(
      ([name, field, , , , sentence]) =>
        new PointingTool(drawing, {
          name,
          title: 'Callout',
          points: 'always',
          needs: { accepts: (target, { scene }) => calloutOf(field, target, scene) !== undefined, sentence },
          make: noteSaying(`{${field}}`),
        }),
    ),
    new LeaderTool(drawing, () => tools.take('pick')),
  ],
};
