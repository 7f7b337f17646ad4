import { SurfaceKind } from '../assembly/part-geometry.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { axesOf, type Axis, type OnAxis, type PlacedFeatures } from '../features/axes.ts';
import { hasAxis, type PartFeatures } from '../features/part-features.ts';
import { isFastener, isThreaded } from '../assembly/role.ts';
import { threadIn, type WrittenThread } from './designation.ts';
import { minorOf, rootOf, THREADS, type ThreadSize } from './sizes.ts';

/** Where a thread was recognised. */
export type ThreadSource = 'helix' | 'cylinders' | 'name' | 'hand';

/** A thread on a component, along an axis of its part. */
export interface Thread {
  readonly component: number;
  readonly designation: string;
  readonly majorMm: number;
  readonly minorMm: number;
  readonly pitchMm: number;
  readonly internal: boolean;
  readonly leftHand: boolean;
  readonly from: ThreadSource;
  /** Index in `rounds` of the part: the cylinder that it is on. */
  readonly round: number;
  /** Along the axis of that round, from its `at`. */
  readonly span: readonly [number, number];
}

/** Sizes are as good as equal within this share. */
const SIZE_SHARE = 0.012;
const sameSize = (a: number, b: number) => Math.abs(a - b) <= Math.max(0.03, SIZE_SHARE * b);

/** A screw is in its hole by this share of its diameter at least: a ring in a groove is not. */
const LEAST_SHARE = 0.4;

/** A thread set by someone on a face of a part. */
export interface ThreadByHand {
  readonly geometry: string;
  readonly face: number;
  readonly designation: string;
  readonly lengthMm?: number | undefined;
  readonly none?: boolean | undefined;
}

export interface ThreadInput {
  readonly assembly: Assembly;
  readonly components: readonly Component[];
  readonly features: { get(geometry: string): PartFeatures | undefined };
  /** Texts that may name a thread, by component: its name, its part's, properties. */
  readonly names?: (component: number) => readonly string[];
  readonly byHand?: readonly ThreadByHand[];
}

/**
 * Screw threads of an assembly: set by hand; modelled as helices; named (“M8 × 25”) on a cylinder that fits; and where a shaft and
 * a bore on one axis overlap as major and minor diameter of a standard thread do, or a shaft steps from one to the other.
 */
export function threadsOf({ assembly, components, features, names, byHand = [] }: ThreadInput): Thread[] {
  const placed: PlacedFeatures[] = components.flatMap((c) => {
    const f = features.get(assembly.parts[c.part]!.geometryKey);
    return f ? [{ component: c.index, features: f, placement: c.placement }] : [];
  });
  const out = new Map<string, Thread>();
  const off = new Set<string>();
  const put = (t: Thread | undefined) => {
    const key = t && `${t.component}/${t.round}`;
    if (t && !out.has(key!) && !off.has(key!)) out.set(key!, t);
  };
  for (const p of placed) {
    const part = assembly.parts[components[p.component]!.part]!;
    for (const h of byHand.filter((b) => b.geometry === part.geometryKey)) {
      const round = p.features.faceRound[h.face] ?? -1;
      if (round < 0) continue;
      if (h.none) off.add(`${p.component}/${round}`);
      else put(set(p, round, h));
    }
  }
  for (const p of placed) for (const t of helical(p)) put(t);
  for (const p of placed) {
    const component = components[p.component]!;
    const part = assembly.parts[component.part]!;
    const texts = names?.(p.component) ?? [component.name, part.name, ...Object.values(part.properties)];
    for (const text of texts) {
      const written = threadIn(text);
      if (!written) continue;
      const found = named(p, written, /\bnut\b|mutter/i.test(`${component.name} ${part.name}`) || part.looksLike === 'nut');
      for (const t of found) put(t);
      if (found.length) break;
    }
  }
  const isScrew = (c: number) => {
    const component = components[c]!;
    const part = assembly.parts[component.part]!;
    return isThreaded(component, part) || isFastener(component, part);
  };
  for (const axis of axesOf(placed)) {
    for (const t of receiving(axis, (o) => out.get(`${o.component}/${o.round}`))) put(t);
    for (const t of engaged(axis)) put(t);
    // Shafts step for other reasons too.
    for (const t of stepped(axis)) if (isScrew(t.component)) put(t);
  }
  return [...out.values()];
}

const threadOn = (
  component: number,
  round: number,
  size: ThreadSize,
  internal: boolean,
  span: readonly [number, number],
  from: ThreadSource,
  leftHand = false,
): Thread => ({
  component,
  round,
  designation: size.designation,
  majorMm: size.majorMm,
  minorMm: minorOf(size),
  pitchMm: size.pitchMm,
  internal,
  leftHand,
  from,
  span,
});

function set({ component, features }: PlacedFeatures, round: number, h: ThreadByHand): Thread | undefined {
  const r = features.rounds[round]!;
  const size = threadIn(h.designation);
  // A rounded corner or the end of a slot has no thread.
  if (!size || !hasAxis(r)) return undefined;
  const length = h.lengthMm ?? r.to - r.from;
  // From the end that lies farther out: the one that the part ends with.
  const atEnd = endsThere(features, r.to, round) || !endsThere(features, r.from, round);
  return threadOn(
    component,
    round,
    size,
    r.inward,
    atEnd ? [Math.max(r.from, r.to - length), r.to] : [r.from, Math.min(r.to, r.from + length)],
    'hand',
    size.leftHand ?? false,
  );
}

/** Does the part end where this round ends? No other one on its axis goes farther. */
function endsThere(f: PartFeatures, at: number, round: number): boolean {
  const r = f.rounds[round]!;
  return !f.rounds.some((o, i) => {
    if (i === round || o.kind === SurfaceKind.sphere) return false;
    const shift = (o.at[0] - r.at[0]) * r.axis[0] + (o.at[1] - r.at[1]) * r.axis[1] + (o.at[2] - r.at[2]) * r.axis[2];
    const same = o.axis[0] * r.axis[0] + o.axis[1] * r.axis[1] + o.axis[2] * r.axis[2];
    if (Math.abs(Math.abs(same) - 1) > 1e-6) return false;
    const [a, b] = same > 0 ? [o.from + shift, o.to + shift] : [shift - o.to, shift - o.from];
    // Chamfers and points at the end are no more than the thread is wide.
    return at === r.to ? b > at + r.radius : a < at - r.radius;
  });
}

/** Helices about one axis: crest and root of one thread. */
function helical({ component, features }: PlacedFeatures): Thread[] {
  const out: Thread[] = [];
  const groups = new Map<string, PartFeatures['helices'][number][]>();
  for (const h of features.helices) {
    const key = `${h.axis} ${Math.round(h.pitch * 200)}`;
    groups.set(key, [...(groups.get(key) ?? []), h]);
  }
  for (const group of groups.values()) {
    const radii = group.map((h) => h.radius);
    const [crest, root] = [Math.max(...radii), Math.min(...radii)];
    const pitch = Math.abs(group[0]!.pitch);
    const internal = group.some((h) => h.inward);
    if (crest - root < 0.2 * pitch) continue;
    const size = THREADS.find((t) => Math.abs(t.pitchMm - pitch) < 0.02 * pitch && Math.abs(t.majorMm - 2 * crest) < 0.06 * t.majorMm);
    const known = size ?? {
      designation: `Ø${Math.round(2 * crest * 100) / 100} × ${Math.round(pitch * 1000) / 1000}`,
      majorMm: 2 * crest,
      pitchMm: pitch,
      coarse: false,
    };
    const span: [number, number] = [Math.min(...group.map((h) => h.from)), Math.max(...group.map((h) => h.to))];
    out.push(threadOn(component, group[0]!.axis, known, internal, span, 'helix', group[0]!.pitch < 0));
  }
  return out;
}

/** A cylinder of the part that a written thread fits: outside at its major or root diameter, inside between its minor and major one. */
function named({ component, features }: PlacedFeatures, written: WrittenThread, nut: boolean): Thread[] {
  const [major, minor, root] = [written.majorMm, minorOf(written), rootOf(written)];
  const fits = features.rounds.flatMap((r, round) => {
    if (r.kind !== SurfaceKind.cylinder || r.turn < Math.PI) return [];
    const d = 2 * r.radius;
    // Nuts are drawn with any diameter from the minor one to the drill's; what is wider lets the screw through.
    const inside = r.inward && d > minor - 0.04 * major && (nut ? d < 1.005 * major : d < major - 0.3 * written.pitchMm);
    const outside = !r.inward && (sameSize(d, major) || sameSize(d, minor) || sameSize(d, root));
    return inside || outside ? [{ r, round }] : [];
  });
  // What is screwed in has its thread at the end, and a nut through and through.
  const external = fits.filter((f) => !f.r.inward);
  const thinner = external.filter((f) => !sameSize(2 * f.r.radius, major));
  const chosen = [...(thinner.length ? thinner : external), ...fits.filter((f) => f.r.inward)];
  return chosen.map(({ r, round }) => threadOn(component, round, written, r.inward, [r.from, r.to], 'name', written.leftHand ?? false));
}

/** Holes for threads are as wide as the minor diameter, or as the drill for it: a little wider. */
const isCore = (bore: number, t: ThreadSize) => bore > minorOf(t) - 0.01 * t.majorMm && bore < minorOf(t) + 0.35 * t.pitchMm;

/** The thread whose major diameter and hole these are; of several the nearest one, coarse before fine. */
function sizeOf(major: number, bore: number): ThreadSize | undefined {
  const off = (t: ThreadSize) => Math.abs(major - t.majorMm);
  return THREADS.filter((t) => off(t) < 0.004 * t.majorMm && isCore(bore, t)).sort((a, b) => Number(b.coarse) - Number(a.coarse) || off(a) - off(b))[0];
}

/** A hole into which a screw goes whose thread is known. */
function receiving(axis: Axis, known: (o: OnAxis) => Thread | undefined): Thread[] {
  const out: Thread[] = [];
  for (const s of axis.on) {
    const screw = known(s);
    if (!screw || screw.internal) continue;
    for (const h of axis.on) {
      if (!h.inward || h.component === s.component || h.kind !== SurfaceKind.cylinder || !isCore(2 * h.radius, { ...screw, coarse: true })) continue;
      if (Math.min(s.to, h.to) - Math.max(s.from, h.from) > LEAST_SHARE * 2 * s.radius) out.push(onAxis(h, { ...screw, coarse: true }));
    }
  }
  return out;
}

/** A shaft and a bore of other components on one axis that run into one another by the depth of a thread. */
function engaged(axis: Axis): Thread[] {
  const out: Thread[] = [];
  for (const s of axis.on)
    for (const h of axis.on) {
      if (s.inward || !h.inward || s.component === h.component || s.kind !== SurfaceKind.cylinder || h.kind !== SurfaceKind.cylinder) continue;
      if (Math.min(s.to, h.to) - Math.max(s.from, h.from) < LEAST_SHARE * 2 * s.radius) continue;
      const size = sizeOf(2 * s.radius, 2 * h.radius);
      if (size) out.push(onAxis(s, size), onAxis(h, size));
    }
  return out;
}

/** A shaft that steps down from a thread's major diameter to its minor or root one. */
function stepped(axis: Axis): Thread[] {
  return axis.on.flatMap((thin) => {
    if (thin.inward || thin.kind !== SurfaceKind.cylinder) return [];
    const thick = axis.on.find(
      (o) =>
        o.component === thin.component &&
        !o.inward &&
        o.kind === SurfaceKind.cylinder &&
        o.radius > thin.radius &&
        (Math.abs(o.to - thin.from) < o.radius || Math.abs(o.from - thin.to) < o.radius),
    );
    const size =
      thick &&
      THREADS.find((t) => sameSize(2 * thick.radius, t.majorMm) && [minorOf(t), rootOf(t)].some((d) => Math.abs(2 * thin.radius - d) < 0.004 * t.majorMm));
    return size ? [onAxis(thin, size)] : [];
  });
}

function onAxis(o: OnAxis, size: ThreadSize): Thread {
  return threadOn(o.component, o.round, size, o.inward, o.own, 'cylinders');
}
