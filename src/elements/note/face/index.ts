import type { Face } from '../../face';
import type { NoteRecord } from '../words';
import { LeaderTool } from './leader-tool.svelte';
import { NoteTool } from './note-tool.svelte';
import Slip from './Slip.svelte';

export const noteFace: Face<NoteRecord> = {
  slip: Slip,
  actions(drawing, tools) {
    const [only] = drawing.chosen;
    const note = drawing.scene.one('note', only);
    return [
      tools.action('note', { label: 'Note: press what it speaks of, then where it stands', short: 'Note', key: '4', group: 'Note' }),
      tools.action('hole-note', { label: 'Hole callout: press a hole, then where it stands', short: 'Hole', key: '5', group: 'Note' }),
      {
        ...tools.action('note-leader', { label: 'One more leader for the note that is selected', short: 'Leader', key: '', group: 'Note' }),
        disabled: !note?.view,
      },
    ];
  },
  tools: (drawing, tools) => [
    new NoteTool(drawing, 'note', '', (record) => {
      tools.take('pick');
      tools.editing = { record: record.id, name: 'text' };
    }),
    new NoteTool(drawing, 'hole-note', '{hole}', () => {}),
    new LeaderTool(drawing, () => tools.take('pick')),
  ],
};
