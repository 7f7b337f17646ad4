import type { Scene } from '../../../elements/scene.ts';
import type { SpreadRecord, ViewRecord } from '../../document/records.ts';
import { changeSpread } from '../../explode/edits.ts';
import { drawnAway, stillHeld } from '../../explode/held.ts';
import { specified } from '../../views/view-spec.ts';
import { numberText } from '../../ledger/items.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Parts that meet along more than this on paper touch or hide each other, mm. */
const MEETING_MM = 3;
/** So many pairs are named. */
const MOST_NAMED = 3;

/** Exploded views: what was moved stands by itself on paper, and what nothing frees is said (common practice). */
export const spreads: Rule = {
  codes: ['EXPLODED_TOUCH', 'HELD_TOGETHER', 'PASSES_THROUGH'],

  sheet(scene, sheet) {
    return scene.viewsOn(sheet).flatMap((v): Finding[] => {
      if (!v.spread || v.off) return [];
      return [...held(scene, v, sheet), ...touching(scene, v, sheet)];
    });
  },

  whole(scene) {
    return scene.all('spread').flatMap((s) =>
      passing(
        scene,
        s,
        scene.all('view').filter((v) => v.spread === s.id && !v.off),
      ),
    );
  },

  fix(f, scene) {
    const spread = f.code === 'HELD_TOGETHER' ? spreadOf(scene, f.about[0]!) : undefined;
    const one = spread && stillHeld(spread).find((h) => h.components[0] === f.about[1]);
    if (!one) return [];
    return changeSpread(scene.document, scene.assembly, scene.components, {
      ...spread,
      pulls: [...spread.pulls, drawnAway(one, scene.assembly, scene.components)],
    });
  },
};

/** Parts that a spread takes through others: nobody could take them off, or put them on, that way. */
function passing(scene: Scene, spread: SpreadRecord, views: readonly ViewRecord[]): Finding[] {
  // A view of one sub-assembly says nothing of what stands around it.
  const leftOut = views.map((v) => new Set(specified(v, scene.document, scene.assembly).spec.leftOut));
  const together = (a: number, b: number) => leftOut.some((out) => !out.has(a) && !out.has(b));
  // What was drawn away although it is held was chosen so.
  const chosen = new Set((spread.held ?? []).flatMap((h) => h.components));
  const through = new Map<number, Set<number>>();
  for (const h of scene.hits?.get(spread.id) ?? [])
    if (together(h.component, h.through)) through.set(h.component, (through.get(h.component) ?? new Set()).add(h.through));
  return [...through].flatMap(([c, others]): Finding[] => {
    const path = scene.components[c]?.path;
    if (path === undefined) return [];
    const names = [...others].map((o) => nameOf(scene, scene.components[o]?.path ?? ''));
    return [
      {
        code: 'PASSES_THROUGH',
        severity: chosen.has(path) ? 'look' : 'should',
        sheet: null,
        about: [spread.id, path],
        text: `${spread.name} takes ${nameOf(scene, path)} through ${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''}.`,
      },
    ];
  });
}

/** Number and description of the item that a component is of. */
function nameOf(scene: Scene, path: string): string {
  const c = scene.components.find((x) => x.path === path);
  const item = c && scene.itemOf(c.index);
  return item ? `${numberText(item)} ${item.values.description.text}` : (c?.name ?? path);
}

const spreadOf = (scene: Scene, view: string): SpreadRecord | undefined => {
  const id = scene.one('view', view)?.spread;
  return id ? scene.one('spread', id) : undefined;
};

function held(scene: Scene, v: ViewRecord, sheet: string): Finding[] {
  const spread = spreadOf(scene, v.id);
  const name = (path: string) => nameOf(scene, path);
  return (spread ? stillHeld(spread) : []).map((h) => ({
    code: 'HELD_TOGETHER',
    severity: 'should',
    sheet,
    about: [v.id, h.components[0]!],
    text: `${v.name} leaves ${name(h.components[0]!)} inside: ${h.by.slice(0, 2).map(name).join(' and ') || 'something'} holds it whichever way it is drawn.`,
    fix: 'Draw it away all the same',
  }));
}

function touching(scene: Scene, v: ViewRecord, sheet: string): Finding[] {
  const pairs = meeting(scene, v);
  if (!pairs.length) return [];
  const name = (c: number) => `${scene.itemOf(c)?.number ?? '?'} ${scene.itemOf(c)?.values.description.text ?? ''}`.trim();
  const named = pairs.slice(0, MOST_NAMED).map(([a, b]) => `${name(a)} and ${name(b)}`);
  return [
    {
      code: 'EXPLODED_TOUCH',
      severity: 'look',
      sheet,
      about: [v.id],
      text: `In ${v.name} parts touch or hide each other on paper: ${named.join('; ')}${pairs.length > MOST_NAMED ? `; ${pairs.length - MOST_NAMED} more` : ''}.`,
    },
  ];
}

/** Pairs of components with different pulls that meet on paper, those that meet longest first. */
function meeting(scene: Scene, view: ViewRecord): (readonly [number, number])[] {
  const result = scene.result(view.id);
  const pulls = specified(view, scene.document, scene.assembly).spec.spread?.pulls ?? [];
  if (!result || !pulls.length) return [];
  // What makes the same moves moves as one; within it parts may touch as they do in the assembly.
  const moves = scene.components.map(() => '');
  pulls.forEach((p, i) => p.components.forEach((c, k) => (moves[c] += ` ${i}${p.ranks ? `/${p.ranks[k]}` : ''}`)));
  const { window, component } = result.map;
  const { width, height } = window;
  const count = new Map<number, number>();
  const n = scene.components.length;
  const meet = (a: number, b: number) => {
    if (a < 0 || b < 0 || a === b || moves[a] === moves[b]) return;
    const key = Math.min(a, b) * n + Math.max(a, b);
    count.set(key, (count.get(key) ?? 0) + 1);
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) meet(component[i]!, component[i + 1]!);
      if (y + 1 < height) meet(component[i]!, component[i + width]!);
    }
  const least = MEETING_MM / (window.pixelMm * view.scale);
  return [...count]
    .filter(([, pixels]) => pixels > least)
    .sort((a, b) => b[1] - a[1])
    .map(([key]) => [Math.floor(key / n), key % n] as const);
}
