import type { ViewRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { viewActions } from './actions';
import { BreakTool, CuttingLineTool } from './drawing-tools.svelte';
import Common from './Common.svelte';
import { viewOffers } from './offers';
import GripBar from './GripBar.svelte';
import Slip from './Slip.svelte';

export const viewFace: Face<ViewRecord> = {
  slip: Slip,
  grip: GripBar,
  actions: viewActions,
  menu: ['hidden', 'tangent', 'shaded', 'label', 'half', 'round', 'identify', 'arrange', 'centres', 'together'],
  offers: viewOffers,
  common: Common,
  tools: (drawing, tools) => [new CuttingLineTool(drawing, tools.sections), new BreakTool(drawing, tools.sections)],
};
