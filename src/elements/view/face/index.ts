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
    {
      label: 'Look of this view',
      actions: ['hidden', 'tangent', 'shaded', 'label', 'half', 'round', 'interrupt', 'partial', 'whole-view', 'show-all', 'hand-line', 'hand-lines-off'],
    },
    {
      label: 'In this view',
      actions: [
        'identify',
        'arrange',
        'dimensions-propose',
        'centres',
        'project',
        'remove-projected',
        'pictorial-cut',
        'largest',
        'together',
        'lock',
        'arrow',
        'view-off',
      ],
    },
  ],
  offers: viewOffers,
  common: Common,
  tools: viewTools,
};
