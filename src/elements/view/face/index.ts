import type { ViewRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { viewActions } from './actions';
import { BreakTool, CuttingLineTool } from './drawing-tools.svelte';
import GripBar from './GripBar.svelte';
import Slip from './Slip.svelte';

export const viewFace: Face<ViewRecord> = {
  slip: Slip,
  grip: GripBar,
  actions: viewActions,
  tools: (drawing, tools) => [new CuttingLineTool(drawing, tools.sections), new BreakTool(drawing, tools.sections)],
};
