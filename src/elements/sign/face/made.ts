import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Spot } from '../../note/face/pointing-tool.svelte';
import type { Sign, SignRecord } from '../draw';

interface Offer {
  readonly sign: Sign['sign'];
  readonly label: string;
  readonly short: string;
  readonly points: 'always' | 'maybe' | 'never';
  readonly end?: 'arrow' | 'triangle' | 'none';
  /** What a new one says. */
  fresh(drawing: Drawing): Sign;
}

/** Letters that are no figures and no I, O, Q (common practice). */
const LETTERS = 'ABCDEFGHJKLMNPRSTUVWXYZ';

/** The next letter that none has. */
const freeLetter = (used: readonly string[]): string => [...LETTERS].find((l) => !used.includes(l)) ?? `A${used.length}`;

const comma = (drawing: Drawing, value: string) => (drawing.scene.drawing.standard === 'iso' ? value.replace('.', ',') : value);

/** Signs that can be placed, as a new one of each is. */
export const OFFERS: readonly Offer[] = [
  {
    sign: 'weld',
    label: 'Weld: press the joint, then where its line begins',
    short: 'Weld',
    points: 'maybe',
    fresh: () => ({ sign: 'weld', arrowSide: { weld: 'fillet', size: 'a4', length: '' }, tail: '' }),
  },
  {
    sign: 'surface',
    label: 'Surface texture: press the surface, then the place',
    short: 'Surface',
    points: 'maybe',
    fresh: (d) => ({ sign: 'surface', removal: 'required', limits: [`Ra ${comma(d, '3.2')}`], process: '', lay: '', allowance: '' }),
  },
  {
    sign: 'frame',
    label: 'Geometrical tolerance: press the feature, then the place',
    short: 'Tolerance',
    points: 'maybe',
    fresh: (d) => ({ sign: 'frame', rows: [{ of: 'perpendicularity', zone: comma(d, '0.1'), datums: ['A'] }], above: '' }),
  },
  {
    sign: 'datum',
    label: 'Datum: press the feature, then where its letter stands',
    short: 'Datum',
    points: 'always',
    end: 'triangle',
    fresh: (d) => ({ sign: 'datum', letter: freeLetter(d.scene.all('sign').flatMap((s) => (s.is.sign === 'datum' ? [s.is.letter] : []))) }),
  },
  {
    sign: 'lifting',
    label: 'Lifting point: press where it is slung, then the place',
    short: 'Lifting',
    points: 'always',
    fresh: () => ({ sign: 'lifting', text: 'Lift here' }),
  },
  {
    sign: 'mass-centre',
    label: 'Centre of mass of a view: press where its mass is written',
    short: 'Mass centre',
    points: 'never',
    fresh: () => ({ sign: 'mass-centre', mass: true }),
  },
  {
    sign: 'flag',
    label: 'Flag with the number of a revision or a general note',
    short: 'Flag',
    points: 'never',
    fresh: (d) => ({ sign: 'flag', shape: 'triangle', text: d.scene.drawing.revision.slice(0, 4) || '1' }),
  },
  { sign: 'projection', label: 'Projection symbol', short: 'Projection', points: 'never', fresh: () => ({ sign: 'projection' }) },
];

export function signAt(offer: Offer, id: string, spot: Spot, drawing: Drawing): SignRecord | undefined {
  // A centre of mass is one of a view.
  if (offer.sign === 'mass-centre' && !spot.view) return undefined;
  return { type: 'sign', id, ...spot, is: offer.fresh(drawing) };
}
