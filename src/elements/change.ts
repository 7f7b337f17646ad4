import type { Vec2 } from '../core/base/vector.ts';

/**
 * Something happened to views: drawn larger, turned, the model came in another size, its components moved. Elements that
 * belong to a view follow. Each function takes what an element keeps and gives what it shall keep; the same value if nothing
 * happened to it.
 */
export interface Change {
  /** A point of a view, view space, model mm. @param path of the component that it lies on, if it does */
  point(view: string, at: Vec2, path?: string): Vec2;
  /** A place beside a view, relative to the view's place on the sheet, paper mm, y down. @param path as in `point` */
  offset(view: string, by: Vec2, path?: string): Vec2;
  /** A length of the model, mm. */
  length(mm: number): number;
}

const same = (_: string, v: Vec2): Vec2 => v;

/** A change of which only some things are told: the rest stays. */
export const changeOf = (told: Partial<Change>): Change => ({ point: told.point ?? same, offset: told.offset ?? same, length: told.length ?? ((mm) => mm) });

/** Views drawn larger or smaller. @param factors by view id */
export function scaled(factors: ReadonlyMap<string, number>): Change {
  return changeOf({
    offset: (view, by) => {
      const k = factors.get(view) ?? 1;
      return k === 1 ? by : [by[0] * k, by[1] * k];
    },
  });
}

/** The model came `k` times as large; on paper everything stays. */
export const grown = (k: number): Change => changeOf({ point: (_, at) => [at[0] * k, at[1] * k], length: (mm) => mm * k });

/** Views seen from the other side: left and right change places, or above and below. @param keep the axis of their frames that stays */
export function mirrored(turned: ReadonlySet<string>, keep: 'right' | 'up' = 'up'): Change {
  const flip = (view: string, v: Vec2): Vec2 => (!turned.has(view) ? v : keep === 'up' ? [-v[0], v[1]] : [v[0], -v[1]]);
  return changeOf({ point: flip, offset: flip });
}

/**
 * Components went somewhere else in views.
 * @param shift how far one moved in a view, model mm; undefined: it did not
 * @param scaleOf asked for views in which something moved
 */
export function shifted(shift: (view: string, path: string) => Vec2 | undefined, scaleOf: (view: string) => number): Change {
  const of = (view: string, path: string | undefined) => (path === undefined ? undefined : shift(view, path));
  return changeOf({
    point: (view, at, path) => {
      const d = of(view, path);
      return d ? [at[0] + d[0], at[1] + d[1]] : at;
    },
    offset: (view, by, path) => {
      const d = of(view, path);
      if (!d) return by;
      const k = scaleOf(view);
      return [by[0] + d[0] * k, by[1] - d[1] * k];
    },
  });
}
