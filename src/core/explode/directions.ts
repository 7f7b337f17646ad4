import { checkCancel, type Cancel } from '../base/errors.ts';
import type { Vec3 } from '../base/vector.ts';
import { frameFrom, type ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { PaperGroups } from './on-paper.ts';
import { sharedCells } from './silhouette.ts';
import type { Pull } from './spread.ts';

export interface DirectionProposal {
  readonly name: string;
  readonly frame: ViewFrame;
  /** Share of the silhouettes of separately pulled components that others lie over, 0…1. */
  readonly hidden: number;
}

/** Isometric views from the four upper corners (ISO 5456-3), and flatter and steeper ones of the same sides. */
const CORNERS: readonly (readonly [string, number, number])[] = [
  ['front right', 1, -1],
  ['front left', -1, -1],
  ['back right', 1, 1],
  ['back left', -1, 1],
];
const RISES: readonly (readonly [string, number, number])[] = [
  ['isometric', 1, 1],
  ['flatter', 1, 0.6],
  ['steeper', 1, 1.6],
  ['turned to the side', 1.7, 1],
];

/** Directions of view, those in which least is hidden first. */
export function proposeDirections(bodies: readonly Body[], pulls: readonly Pull[], cancel?: Cancel): DirectionProposal[] {
  const out = CORNERS.flatMap(([corner, x, y]) =>
    RISES.map(([rise, wide, z]): DirectionProposal => {
      checkCancel(cancel);
      const toward: Vec3 = [x * wide, y, z];
      const frame = frameFrom(toward, [0, 0, 1]);
      return { name: `${corner}, ${rise}`, frame, hidden: hiddenShare(bodies, pulls, frame) };
    }),
  );
  return out.sort((a, b) => a.hidden - b.hidden);
}

function hiddenShare(bodies: readonly Body[], pulls: readonly Pull[], frame: ViewFrame): number {
  const paper = new PaperGroups(bodies, pulls, frame, 0);
  const distances = pulls.map((p) => p.distanceMm);
  let [overlap, all] = [0, 0];
  paper.groups.forEach((a, i) => {
    all += a.shape.count;
    const [ax, ay] = paper.cells(a, distances);
    for (const b of paper.groups.slice(i + 1)) {
      const [bx, by] = paper.cells(b, distances);
      overlap += sharedCells(a.shape, b.shape, ax - bx, ay - by);
    }
  });
  return all > 0 ? Math.min(1, overlap / all) : 0;
}
