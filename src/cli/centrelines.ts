import type { Assembly } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { BLANK_DRAWING, PLAIN_VIEW, type ViewRecord } from '../core/document/records.ts';
import { featuresSource } from '../core/features/part-features.ts';
import type { ViewFrame } from '../core/outline/directions.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import { axisLinesOf, mergedLines } from '../elements/centre/axes.ts';
import { circlesOf } from '../elements/centre/circles.ts';
import { pitchCirclesOf } from '../elements/centre/pitch.ts';
import { Scene } from '../elements/scene.ts';

export interface ShownView {
  readonly assembly: Assembly;
  readonly geometries: ReadonlyMap<string, PartGeometry>;
  readonly frame: ViewFrame;
  readonly result: ViewResult;
  readonly hidden: boolean;
}

/** Centrelines of a view at 1:1: axes seen from the side from end to end, circles by centre and radius, circles of holes. View space, mm. */
export function centrelinesOf({ assembly, geometries, frame, result, hidden }: ShownView): unknown[] {
  const view: ViewRecord = { type: 'view', id: 'view', sheet: 'sheet', name: '', ...frame, ...PLAIN_VIEW, hidden };
  const document = { drawing: BLANK_DRAWING, sheet: { type: 'sheet', id: 'sheet', order: 1, name: '', size: 'A3', landscape: true }, view } as const;
  const scene = new Scene({ document, assembly, results: new Map([['view', result]]), features: featuresSource(geometries) });
  const circles = circlesOf(result);
  const centres: { x: number; y: number; radius: number }[] = [];
  for (const c of circles) {
    const there = centres.find((o) => Math.hypot(o.x - c.x, o.y - c.y) < 0.01);
    if (there) there.radius = Math.max(there.radius, c.radius);
    else centres.push({ x: c.x, y: c.y, radius: c.radius });
  }
  return [
    ...mergedLines(axisLinesOf(scene, view), 0.01).map((l) => ({ from: l.from, to: l.to })),
    ...centres.map((c) => ({ centre: [c.x, c.y], radiusMm: c.radius })),
    ...pitchCirclesOf(circles).map((p) => ({ centre: p.at, radiusMm: p.radius, pitchCircle: true })),
  ];
}
