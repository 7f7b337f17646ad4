import { ThreadTool } from './thread-tool.svelte';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Tool } from '$lib/sheets/tool';
import type { Tools } from '$lib/sheets/tools.svelte';
import { outlineBox } from '../../../core/views/outline';
import { detailScale, newDetail } from '../detail-of';
import { CuttingLineTool } from './cutting-line-tool.svelte';
import { DepthTool } from './depth-tool.svelte';
import { HandLineTool } from './hand-line-tool.svelte';
import { InterruptTool } from './interrupt-tool.svelte';
import { OutlineTool, type OutlinePurpose } from './outline-tool.svelte';
import { PlaceTool } from './place-tool.svelte';
import { ProjectTool } from './project-tool.svelte';

/** The tools that make views and change them on the sheet. */
export function viewTools(drawing: Drawing, tools: Tools): Tool[] {
  const done = () => tools.take('pick');
  const purposes: readonly OutlinePurpose[] = [
    {
      name: 'detail',
      title: 'Detail',
      hint: 'Draw around what is too small to be read',
      way: 'circle',
      sizeOf(view, within) {
        const [x0, y0, x1, y1] = outlineBox(within);
        const k = detailScale(drawing.scene, view);
        return [(x1 - x0) * k, (y1 - y0) * k];
      },
      make(view, within, at) {
        const { record, free } = newDetail(drawing.scene, view, within, drawing.freshId('view:detail'), at);
        drawing.edit(`Add ${record.name}`, [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
        if (!free) notify('trouble', 'There is no free room on this sheet. The detail stands where it covers least: move it, or take a larger sheet.');
      },
    },
    {
      name: 'partial',
      title: 'Partial view',
      hint: 'Draw around what shall stay',
      way: 'box',
      refuses: (view) => (view.detail ? 'A detail is a part of a view already: pull its outline.' : undefined),
      make(view, within) {
        drawing.edit('Show a part of the view', [{ op: 'put', record: { ...view, within } }]);
        drawing.select({ kind: 'record', id: view.id });
      },
    },
    {
      name: 'break',
      title: 'Broken-out section',
      hint: 'Draw around what is to be opened',
      way: 'stroke',
      refuses: (view) =>
        view.detail
          ? 'Break out of the view that this is a detail of.'
          : view.cut && view.cut.shape?.kind !== 'local'
            ? 'This view is a section already. Break out of a view that is not cut.'
            : undefined,
      make: (view, within) => void tools.sections.breakOut(view, within),
    },
  ];
  return [
    new CuttingLineTool(drawing, tools.sections),
    new PlaceTool(drawing, done),
    new ProjectTool(drawing, done),
    new InterruptTool(drawing, done),
    new DepthTool(drawing, done),
    new HandLineTool(drawing, done),
    new ThreadTool(drawing),
    ...purposes.map((p) => new OutlineTool(drawing, p, done)),
  ];
}
