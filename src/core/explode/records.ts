import type { Component } from '../assembly/assembly.ts';
import type { PullRecord, SpreadRecord } from '../document/records.ts';
import type { Pull } from './spread.ts';

/** A pull of the drawing with the index of its record. */
export interface RecordedPull extends Pull {
  readonly record: number;
}

/** The pulls of a spread that are made: those switched off and those that move nothing are left out. Paths the model does not have are passed over. */
export function pullsOf(spread: Pick<SpreadRecord, 'pulls'>, components: readonly Component[]): RecordedPull[] {
  const index = new Map(components.map((c) => [c.path, c.index]));
  return spread.pulls.flatMap((p, record): RecordedPull[] => {
    if (p.off) return [];
    const kept = p.components.flatMap((path, k) => {
      const i = index.get(path);
      return i === undefined ? [] : [{ i, rank: p.ranks?.[k] ?? 1 }];
    });
    if (kept.length === 0) return [];
    return [
      {
        record,
        components: kept.map((k) => k.i),
        direction: p.direction,
        distanceMm: p.distanceMm,
        ...(p.turn ? { turn: p.turn } : {}),
        ...(p.ranks ? { ranks: kept.map((k) => k.rank) } : {}),
        ...(p.leg ? { leg: p.leg } : {}),
      },
    ];
  });
}

/** A pull without the index of its record: what is computed and keyed does not depend on where it is kept. */
export const plainPull = ({ record: _record, ...pull }: RecordedPull): Pull => pull;

/** A pull as it is kept in the drawing. */
export function pullRecord(pull: Pull, components: readonly Component[]): PullRecord {
  return {
    components: pull.components.map((c) => components[c]!.path),
    direction: pull.direction,
    distanceMm: pull.distanceMm,
    ...(pull.turn ? { turn: pull.turn } : {}),
    ...(pull.ranks ? { ranks: pull.ranks } : {}),
    ...(pull.leg ? { leg: pull.leg } : {}),
  };
}
