import type { Rule } from '../rule.ts';
import { cuts } from './cuts.ts';
import { data } from './data.ts';
import { dimensions } from './dimensions.ts';
import { identified } from './identified.ts';
import { layers } from './layers.ts';
import { leaders } from './leaders.ts';
import { letters } from './letters.ts';
import { list } from './list.ts';
import { projection } from './projection.ts';
import { scales } from './scales.ts';
import { seen } from './seen.ts';
import { spelling } from './spelling.ts';
import { spreads } from './spreads.ts';
import { texts } from './texts.ts';
import { title } from './title.ts';
import { views } from './views.ts';

/** Everything that is checked, besides what each kind of element checks of its own. */
export const RULES: readonly Rule[] = [
  seen,
  identified,
  list,
  leaders,
  letters,
  scales,
  projection,
  views,
  cuts,
  spreads,
  dimensions,
  texts,
  spelling,
  title,
  data,
  layers,
];
