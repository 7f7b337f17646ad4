import { drawingOf, type HeldRecord, type PullRecord, type SpreadRecord, type ViewRecord } from '$core/document/records';
import { EXPLODED_MARGIN } from '$core/draft/room';
import { withoutOwnPull } from '$core/explode/choose';
import type { DirectionProposal } from '$core/explode/directions';
import { changeSpread, fitView, insertPlanned } from '$core/explode/edits';
import { drawnAway, heldRecord } from '$core/explode/held';
import { plainPull, pullRecord } from '$core/explode/records';
import type { FitAnswer, Interim, PlanAnswer } from '$core/explode/requests';
import type { Pull } from '$core/explode/spread';
import type { ViewFrame } from '$core/outline/directions';
import { scaleText, standardScales } from '$core/sheet/paper';
import type { ApiFailure } from '../shared/api';
import { arrangeAnew } from '../shared/balloons';
import { notify } from '../shared/notices.svelte';
import { compute } from './compute';
import { axisText, type Explode, type Work } from './explode.svelte';
import { changePull } from './pull-edits';
import { newSpread } from './spreads';

/** The gap that "until clear" leaves, paper mm. */
const CLEAR_GAP_MM = 2;

/** Plans everything anew, or adds a plan for what is chosen or for what has no pull yet. */
export async function plan(explode: Explode, which: 'all' | 'chosen' | 'rest'): Promise<void> {
  const { drawing } = explode;
  if (!explode.spread) newSpread(explode);
  if (which === 'chosen' && explode.chosen.size === 0) {
    notify('trouble', 'Pick the parts to be planned first.');
    return;
  }
  const only = which === 'chosen' ? [...explode.chosen] : undefined;
  const answer = await long(
    explode,
    'Planning',
    (signal, tell) => compute<PlanAnswer>(drawing.id, { kind: 'plan', frame: explode.frame, together: explode.together(), only }, signal, tell),
    // What is planned first comes off first.
    (partial) => takePlan(explode, which, partial, [...new Set(partial.flatMap((p) => p.components))], 'Plan so far'),
  );
  if (!answer) return;
  const held = answer.stuck.map((s) => heldRecord(s, drawing.components));
  const before = which === 'all' ? [] : (explode.spread?.held ?? []).filter((h) => !held.some((n) => n.components[0] === h.components[0]));
  const label = which === 'all' ? 'Plan' : which === 'chosen' ? 'Plan what is picked' : 'Plan the rest';
  takePlan(explode, which, answer.pulls, answer.order, label, [...before, ...held]);
  if (held.length) notify('trouble', heldText(explode, held[0]!) + (held.length > 1 ? ` And ${held.length - 1} more.` : ''));
}

/** Puts what was planned into the spread. What was planned before for picked parts gives way; pulls of others stay. */
function takePlan(
  explode: Explode,
  which: 'all' | 'chosen' | 'rest',
  planned: readonly Pull[],
  order: readonly number[],
  label: string,
  held?: readonly HeldRecord[],
): void {
  const { assembly, components } = explode.drawing;
  const records = planned.map((p) => pullRecord(p, components));
  const before = explode.spread!.pulls;
  const index = new Map(components.map((c) => [c.path, c.index]));
  const others = (p: PullRecord) => !p.components.every((path) => explode.chosen.has(index.get(path) ?? -1));
  const pulls =
    which === 'all'
      ? records
      : which === 'chosen'
        ? [...records, ...before.filter(others)]
        : insertPlanned(before, planned, order, withoutOwnPull(assembly, components, explode.made), components);
  explode.put(label, { pulls, ...(held ? { held } : {}) });
  explode.active = undefined;
  explode.time = explode.made.length;
}

export function heldText({ drawing }: Explode, h: HeldRecord): string {
  const name = (path: string) => drawing.components.find((c) => c.path === path)?.name ?? path;
  return `${name(h.components[0]!)} comes off in no direction that was tried: even ${axisText(h.direction)} ${h.by.slice(0, 2).map(name).join(' and ') || 'something'} holds it.`;
}

/** Draws a held component through what holds it, as if that could open. */
export function drawHeldAway(explode: Explode, h: HeldRecord): void {
  const { assembly, components } = explode.drawing;
  explode.put('Draw away what is held', { pulls: [...explode.spread!.pulls, drawnAway(h, assembly, components)] });
}

/** Shortens the pulls until the view fits its room at the largest standard scale. */
export async function tighten(explode: Explode, scales?: readonly number[]): Promise<void> {
  const { drawing, spread, view } = explode;
  if (!spread || explode.made.length === 0) {
    notify('trouble', 'There are no pulls to be tightened. Plan first.');
    return;
  }
  const kept = explode.made.flatMap((p, i) => (spread.pulls[p.record]!.typed ? [i] : []));
  const answer = await fit(explode, 'Tightening', kept, explode.frame, scales ?? standardScales(drawingOf(drawing.document).standard));
  if (!answer || explode.spread !== spread) return;
  const records = spread.pulls.map((p, i) => {
    const tight = answer.pulls[explode.made.findIndex((m) => m.record === i)];
    return tight ? { ...p, direction: tight.direction, distanceMm: tight.distanceMm } : p;
  });
  put(explode, 'Tighten', { ...spread, pulls: records }, view, answer);
  notify(
    answer.fits ? 'good' : 'trouble',
    answer.fits
      ? `Fits ${Math.round(answer.size[0])} × ${Math.round(answer.size[1])} mm at ${scaleText(answer.scale)}, parts ${answer.gapMm} mm apart on paper.`
      : `It does not fit the sheet even at ${scaleText(answer.scale)}. Take a larger sheet, or free typed distances.`,
  );
}

/** Turns the view on the sheet; distances stay, and the scale if it still fits. */
export async function lookFrom(explode: Explode, { right, up, toward }: ViewFrame): Promise<void> {
  const { drawing, spread, view } = explode;
  if (!view || !spread) return;
  const scales = standardScales(drawingOf(drawing.document).standard).filter((s) => s <= view.scale * 1.001);
  const frame = { right, up, toward };
  const answer = await fit(
    explode,
    'Turning the view',
    explode.made.map((_, i) => i),
    frame,
    scales.length ? scales : [view.scale],
  );
  if (!answer || explode.spread !== spread) return;
  if (!answer.fits) {
    notify('trouble', `Seen from there it does not fit the sheet even at ${scaleText(answer.scale)}. Take a larger sheet, or tighten it first.`);
    return;
  }
  explode.proposals = [];
  put(explode, 'Direction of view', spread, { ...view, ...frame }, answer);
}

function fit(explode: Explode, what: string, kept: readonly number[], frame: ViewFrame, scales: readonly number[]): Promise<FitAnswer | undefined> {
  const pulls = explode.made.map(plainPull);
  const { room } = explode.place;
  return long(explode, what, (signal, tell) => compute<FitAnswer>(explode.drawing.id, { kind: 'fit', pulls, kept, frame, room, scales }, signal, tell));
}

/** Puts a fitted spread into the middle of its room on the sheet, and its balloons around it. */
function put(explode: Explode, label: string, after: SpreadRecord, view: ViewRecord | undefined, answer: FitAnswer): void {
  const { drawing, place } = explode;
  const { document, assembly, components } = drawing;
  const { frame } = place.geometry;
  const at = [frame.x + EXPLODED_MARGIN + place.room[0] / 2, frame.y + EXPLODED_MARGIN + place.room[1] / 2] as const;
  drawing.edit(
    label,
    view && answer.fits
      ? fitView(document, assembly, components, after, view, { scale: answer.scale, pivot: answer.middle, at })
      : changeSpread(document, assembly, components, after),
  );
  explode.time = explode.made.length;
  if (view) void arrangeAnew(drawing, view.id);
}

/** How far the pull at hand has to go until it is clear, plus a gap. */
export async function untilClear(explode: Explode, i: number): Promise<void> {
  const record = explode.spread!.pulls[i]!;
  const own = explode.made.find((p) => p.record === i);
  if (!own) return;
  const pulls = explode.made.filter((p) => p.record < i).map(plainPull);
  const gapMm = CLEAR_GAP_MM / explode.place.scale;
  try {
    const request = { kind: 'clear', pulls, components: own.components, direction: record.direction, gapMm } as const;
    const { distanceMm } = await compute<{ distanceMm: number }>(explode.drawing.id, request);
    changePull(explode, i, 'Until clear', { distanceMm: Math.ceil(distanceMm - 1e-6), typed: true });
  } catch (e) {
    notify('trouble', (e as ApiFailure).message);
  }
}

export async function proposeDirections(explode: Explode): Promise<void> {
  const pulls = explode.made.map(plainPull);
  const answer = await long(explode, 'Comparing directions', (signal) =>
    compute<{ proposals: readonly DirectionProposal[] }>(explode.drawing.id, { kind: 'directions', pulls }, signal),
  );
  explode.proposals = answer?.proposals ?? [];
}

/** What runs now; there is one at a time. */
let running: AbortController | undefined;

/**
 * Starts long work; what was under way is stopped.
 * @param keep takes what is found so far, when someone stops it and wants that
 */
async function long<T>(
  explode: Explode,
  what: string,
  run: (signal: AbortSignal, tell: (message: Interim) => void) => Promise<T>,
  keep?: (partial: readonly Pull[]) => void,
): Promise<T | undefined> {
  running?.abort();
  const stop = (running = new AbortController());
  let work: Work = { what, share: 0, stop: () => stop.abort() };
  const show = (more: Partial<Work>) => {
    if (running === stop) explode.work = work = { ...work, ...more };
  };
  show({});
  try {
    return await run(stop.signal, (m) => {
      if ('progress' in m) show({ share: m.progress });
      else if (keep) {
        const take = () => {
          stop.abort();
          keep(m.partial);
        };
        show({ found: { pulls: m.partial.length, keep: take } });
      }
    });
  } catch (e) {
    if (!stop.signal.aborted) notify('trouble', (e as ApiFailure).message);
    return undefined;
  } finally {
    if (running === stop) explode.work = undefined;
  }
}
