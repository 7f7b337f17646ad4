import { chosenKs } from '../flat/k-factor.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { fingerprint } from '../base/fingerprint.ts';
import type { Vec3 } from '../base/vector.ts';
import type { CutShape } from '../cut/cut-shape.ts';
import type { DrawingDocument, DrawingDocumentRecord, ViewRecord } from '../document/records.ts';
import { plainPull, pullsOf } from '../explode/records.ts';
import type { Pull } from '../explode/spread.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { seenAs } from './detail.ts';

/** Bumped when the engine gives other results for the same input: stored results then count as missing. */
export const ENGINE_VERSION = 8;

/** Everything that decides what a view shows, and nothing else: scale, place and labels are not in it. */
export interface ViewSpec {
  readonly frame: ViewFrame;
  readonly hidden: boolean;
  readonly tangent: boolean;
  readonly shaded: boolean;
  /** Pixel of the shaded picture, mm in the model; absent: by the size of the view. */
  readonly shadingPixelMm?: number;
  /** One tone per face of the mesh. */
  readonly flat?: boolean;
  /** A colour for each item instead of the model's. */
  readonly colorByItem?: boolean;
  /** Hidden lines only of components that begin within this depth, mm; absent: of all. */
  readonly hiddenWithinMm?: number;
  readonly cut: {
    readonly normal: Vec3;
    readonly d: number;
    readonly keptWhole: readonly number[];
    readonly shape?: CutShape | undefined;
    readonly behindMm?: number | undefined;
  } | null;
  /** Pulls that are made, and whether their lines are wanted; null when nothing is exploded. */
  readonly spread: { readonly pulls: readonly Pull[]; readonly lines: boolean; readonly linesOff: readonly number[] } | null;
  /** Components that are not shown, ascending; absent: none. */
  readonly leftOut?: readonly number[];
  /** Components that are shown faint, ascending; absent: none. */
  readonly faint?: readonly number[];
  /** Pulls of a second position that is drawn over the first; absent: none. */
  readonly second?: { readonly pulls: readonly Pull[] };
  /** What is shown is laid flat, with a K that someone chose, or by DIN 6935. */
  readonly laid?: true | number;
}

/** The specification of a view record. Paths that the model does not have are passed over. @param assembly tells which K was chosen for what is laid flat */
export function specOf(record: ViewRecord, doc: DrawingDocument, components: readonly Component[], assembly?: Assembly): ViewSpec {
  const view = seenAs(record, doc);
  const source = record.detail?.of ? doc[record.detail.of] : undefined;
  // A detail shows the picture that its view shows: a finer one would be the whole view drawn anew.
  const pictured = source?.type === 'view' && source.shaded ? source : view;
  const index = indexOf(components);
  const spread = view.spread ? doc[view.spread] : undefined;
  const second = view.second ? doc[view.second] : undefined;
  const indices = (paths: readonly string[]) => paths.flatMap((p) => index.get(p) ?? []).sort((a, b) => a - b);
  const leftOut = view.shows ? leftOutBy(view.shows, indices(view.shows.of), components.length) : [];
  const faint = indices(view.faint ?? []);
  return {
    frame: { right: view.right, up: view.up, toward: view.toward },
    hidden: view.hidden,
    tangent: view.tangent,
    shaded: view.shaded,
    ...(view.shaded
      ? { shadingPixelMm: printPixel(pictured.scale), ...(view.flat ? { flat: true } : {}), ...(view.colorByItem ? { colorByItem: true } : {}) }
      : {}),
    ...(view.hidden && view.hiddenWithinMm !== undefined ? { hiddenWithinMm: view.hiddenWithinMm } : {}),
    cut: view.cut
      ? {
          normal: view.cut.normal,
          d: view.cut.d,
          keptWhole: indices(view.cut.keptWhole),
          ...(view.cut.shape ? { shape: view.cut.shape } : {}),
          ...(view.cut.behindMm !== undefined ? { behindMm: view.cut.behindMm } : {}),
        }
      : null,
    spread:
      spread?.type === 'spread'
        ? {
            pulls: pullsOf(spread, components).map(plainPull),
            lines: view.pullLines && !spread.noLines,
            linesOff: indices([...(spread.linesOff ?? []), ...(view.linesOff ?? [])]),
          }
        : null,
    ...(leftOut.length ? { leftOut } : {}),
    ...(faint.length ? { faint } : {}),
    ...(second?.type === 'spread' ? { second: { pulls: pullsOf(second, components).map(plainPull) } } : {}),
    ...(view.laid ? { laid: (assembly && kOf(assembly, doc, components, leftOut)) ?? (true as const) } : {}),
  };
}

/** The K of the part that a view laid flat shows. */
function kOf(assembly: Assembly, doc: DrawingDocument, components: readonly Component[], leftOut: readonly number[]): number | undefined {
  const out = new Set(leftOut);
  const shown = components.find((c) => !out.has(c.index));
  return shown && chosenKs(assembly, doc).get(assembly.parts[shown.part]!.geometryKey);
}

/** Components that a view does not show. A choice of none is no choice: an empty view says nothing. */
function leftOutBy(shows: NonNullable<ViewRecord['shows']>, of: readonly number[], count: number): readonly number[] {
  if (!shows.only) return of.length < count ? of : [];
  const wanted = new Set(of);
  return wanted.size ? Array.from({ length: count }, (_, i) => i).filter((i) => !wanted.has(i)) : [];
}

const indices = new WeakMap<readonly Component[], ReadonlyMap<string, number>>();

function indexOf(components: readonly Component[]): ReadonlyMap<string, number> {
  let index = indices.get(components);
  if (!index) indices.set(components, (index = new Map(components.map((c) => [c.path, c.index]))));
  return index;
}

const PRINT_DPI = 300;

/** Model mm of a pixel that prints at 300 dpi or finer; in steps of two, so that not every change of scale shades anew. */
function printPixel(scale: number): number {
  return 2 ** Math.floor(Math.log2(25.4 / PRINT_DPI / scale));
}

/** Text from which a result's key is hashed: equal for equal pictures, whatever the sheet around them. */
export function specText(spec: ViewSpec, assembly: Assembly): string {
  const { bodies, colors } = printOf(assembly);
  return JSON.stringify([
    ENGINE_VERSION,
    spec.frame.right,
    spec.frame.up,
    spec.frame.toward,
    spec.hidden,
    spec.tangent,
    spec.shaded,
    spec.shadingPixelMm,
    spec.flat,
    spec.colorByItem,
    spec.hiddenWithinMm,
    spec.cut,
    spec.spread,
    spec.leftOut,
    spec.faint,
    spec.second,
    bodies,
    spec.shaded ? colors : '',
    ...(spec.laid === undefined ? [] : spec.laid === true ? ['laid'] : ['laid', spec.laid]),
  ]);
}

interface Print {
  readonly bodies: string;
  readonly colors: string;
}

const prints = new WeakMap<Assembly, Print>();

/** What of an assembly decides about its pictures: shapes and places, and colours. */
function printOf(assembly: Assembly): Print {
  let print = prints.get(assembly);
  if (!print) {
    const components = componentsOf(assembly);
    print = {
      bodies: fingerprint(JSON.stringify(components.map((c) => [assembly.parts[c.part]!.geometryKey, c.placement]))),
      colors: fingerprint(JSON.stringify(components.map((c) => assembly.nodes[c.node]!.color ?? assembly.parts[c.part]!.color ?? ''))),
    };
    prints.set(assembly, print);
  }
  return print;
}

interface Wanted {
  readonly assembly: Assembly;
  readonly basis: readonly (DrawingDocumentRecord | undefined)[];
  readonly spec: ViewSpec;
  readonly text: string;
}

const wanted = new WeakMap<ViewRecord, Wanted>();

/** The records besides its own that a view's picture depends on. */
function basisOf(view: ViewRecord, doc: DrawingDocument): (DrawingDocumentRecord | undefined)[] {
  const out: (DrawingDocumentRecord | undefined)[] = [];
  for (let v: DrawingDocumentRecord | undefined = view; v?.type === 'view' && !out.includes(v);) {
    if (v !== view) out.push(v);
    out.push(v.spread ? doc[v.spread] : undefined, v.second ? doc[v.second] : undefined);
    v = v.detail?.of ? doc[v.detail.of] : undefined;
  }
  // What is laid flat goes by the K of its part, or of its material.
  if (view.laid) out.push(doc['ledger'], ...Object.values(doc).filter((r) => r.type === 'property'));
  return out;
}

/** Specification of a view and its text, worked out once per record, what it depends on, and model. */
export function specified(view: ViewRecord, doc: DrawingDocument, assembly: Assembly): { readonly spec: ViewSpec; readonly text: string } {
  const basis = basisOf(view, doc);
  const known = wanted.get(view);
  if (known && known.assembly === assembly && known.basis.length === basis.length && basis.every((r, i) => r === known.basis[i])) return known;
  const spec = specOf(view, doc, componentsOf(assembly), assembly);
  const now = { assembly, basis, spec, text: specText(spec, assembly) };
  wanted.set(view, now);
  return now;
}
