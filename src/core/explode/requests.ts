import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Cancel } from '../base/errors.ts';
import type { Vec3 } from '../base/vector.ts';
import { proposeDirections, type DirectionProposal } from './directions.ts';
import { fitSpread, type Fit } from './fit.ts';
import { paperReport, type PaperReport } from './on-paper.ts';
import { planSpread, type PlannedPull, type Stuck } from './plan.ts';
import { crossings, type Crossing } from './crossings.ts';
import { pullLines } from './pull-lines.ts';
import { motionsOf, movedBodies, type Pull } from './spread.ts';
import { clearDistance } from './until-clear.ts';
import { checkSpread, type WayOut } from './way-out.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';

/** Something of an exploded view that has to be computed. Components by index. */
export type ExplodeRequest =
  /** @param from first pull that is checked */
  | { readonly kind: 'check'; readonly pulls: readonly Pull[]; readonly from?: number | undefined; readonly paper?: PaperPlace | undefined }
  | {
      readonly kind: 'plan';
      readonly frame: ViewFrame;
      readonly together: readonly (readonly number[])[];
      /** Only these; absent: everything. */
      readonly only?: readonly number[] | undefined;
    }
  | {
      readonly kind: 'fit';
      readonly pulls: readonly Pull[];
      /** Pulls whose distance was chosen by someone, by index. */
      readonly kept: readonly number[];
      readonly frame: ViewFrame;
      readonly room: readonly [number, number];
      readonly scales: readonly number[];
    }
  | { readonly kind: 'clear'; readonly pulls: readonly Pull[]; readonly components: readonly number[]; readonly direction: Vec3; readonly gapMm: number }
  | { readonly kind: 'directions'; readonly pulls: readonly Pull[] };

/** The view in which it is shown. */
export interface PaperPlace {
  readonly frame: ViewFrame;
  /** Paper mm per model mm. */
  readonly scale: number;
  readonly gapMm: number;
  /** Components whose pull lines are not drawn. */
  readonly linesOff?: readonly number[] | undefined;
}

/** Crossings of pull lines closer together than this look like one, paper mm. */
const CROSSINGS_APART_MM = 1.5;

export interface CheckAnswer extends WayOut {
  readonly paper: (PaperReport & { readonly crossings: readonly Crossing[] }) | null;
}
export interface PlanAnswer extends WayOut {
  readonly pulls: readonly PlannedPull[];
  readonly stuck: readonly Stuck[];
  /** Components in the order they come off. */
  readonly order: readonly number[];
}
export type FitAnswer = Fit;
export type ExplodeAnswer = CheckAnswer | PlanAnswer | FitAnswer | { readonly distanceMm: number } | { readonly proposals: readonly DirectionProposal[] };

/** What is told while it is computed: how far it is, 0…1, or a plan so far. */
export type Interim = { readonly progress: number } | { readonly partial: readonly Pull[] };

/**
 * @param tell is told what happens meanwhile
 * @param now milliseconds of some clock
 * @throws QuarryError CANCELLED
 */
export function explode(
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  request: ExplodeRequest,
  cancel: Cancel,
  tell: (message: Interim) => void,
  now: () => number,
): ExplodeAnswer {
  const bodies = sceneOf(assembly, geometries);
  switch (request.kind) {
    case 'check': {
      const way = checkSpread(assembly, bodies, request.pulls, cancel, request.from);
      const { paper: place } = request;
      if (!place) return { ...way, paper: null };
      const apart = movedBodies(bodies, motionsOf(request.pulls, componentsOf(assembly).length));
      const off = new Set(place.linesOff);
      const lines = pullLines(bodies, request.pulls).filter((l) => !off.has(l.component));
      return {
        ...way,
        paper: {
          ...paperReport(bodies, request.pulls, place.frame, place.scale, place.gapMm),
          crossings: crossings(lines, apart, place.frame, CROSSINGS_APART_MM / place.scale),
        },
      };
    }
    case 'plan': {
      const only = request.only && new Set(request.only);
      const plan = planSpread(assembly, bodies, {
        frame: request.frame,
        together: request.together,
        ...(only ? { only } : {}),
        cancel,
        onProgress: (progress) => tell({ progress }),
        onPartial: (partial) => tell({ partial }),
        now,
      });
      return { pulls: plan.pulls, stuck: plan.stuck, order: plan.order, clear: plan.pulls.map((p) => p.clear), hits: plan.hits };
    }
    case 'fit':
      return fitSpread(bodies, request.pulls, { ...request, kept: new Set(request.kept), cancel });
    case 'clear': {
      const motions = motionsOf(request.pulls, componentsOf(assembly).length);
      return { distanceMm: clearDistance(bodies, motions, request.components, request.direction, request.gapMm) };
    }
    case 'directions':
      return { proposals: proposeDirections(bodies, request.pulls, cancel) };
  }
}
