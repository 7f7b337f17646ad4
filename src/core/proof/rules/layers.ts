import { layersOff, switchLayer } from '../../../elements/layers.ts';
import type { Rule } from '../rule.ts';

/** What lies on a layer that is switched off is not printed (common practice: someone looks before it goes out). */
export const layers: Rule = {
  codes: ['LAYER_OFF'],
  whole: (scene) =>
    layersOff(scene).map((name) => ({
      code: 'LAYER_OFF',
      severity: 'look',
      sheet: null,
      about: ['layers', name],
      text: `Layer “${name}” is switched off: nothing on it is printed.`,
      fix: 'Switch it on',
    })),
  fix: (f, scene) => (f.code === 'LAYER_OFF' ? switchLayer(scene, f.about[1]!, true) : []),
};
