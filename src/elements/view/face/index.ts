import type { ViewRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { viewActions } from './actions';
import Common from './Common.svelte';
import { viewOffers } from './offers';
import GripBar from './GripBar.svelte';
import Slip from './Slip.svelte';
import { viewTools } from './tools';

export const viewFace: Face<ViewRecord> = {
  slip: Slip,
  grip: GripBar,
  actions: viewActions,
  menu: [
    'project',
    'interrupt',
    'partial',
    'whole-view',
    'show-all',
    'hand-line',
    'hand-lines-off',
    'largest',
    'lock',
    'view-off',
    'arrow',
    'remove-projected',
    'hidden',
    'tangent',
    'shaded',
    'label',
    'half',
    'round',
    'pictorial-cut',
    'identify',
    'arrange',
    'centres',
    'dimensions-propose',
    'together',
  ],
  offers: viewOffers,
  common: Common,
  tools: viewTools,
};
