import { dot, type Vec3 } from '../base/vector.ts';
import { namedFrame, type ViewFrame } from '../outline/directions.ts';
import type { Item } from '../ledger/items.ts';
import { PLAIN_COLUMNS, type GuideColumns } from './columns.ts';
import { stepKey } from './arrange.ts';
import { listed, PHRASES, say, type Language, type Side } from './phrases.ts';
import type { BuildOrder, BuildStep } from './steps.ts';
import { HEAVY_KG, toolFor, type Tool } from './tools.ts';

/** A row of what to take for a step. */
export interface KitRow {
  readonly item: Item;
  readonly quantity: number;
  readonly tool: Tool | undefined;
  /** Its description in the language of the guide, and where it is fetched from. */
  readonly name: string;
  readonly place: string;
}

export interface GuideStep extends BuildStep {
  /** From 1, through the whole guide. */
  readonly number: number;
  /** Within its unit, from 1, and how many that has. */
  readonly place: number;
  readonly places: number;
  readonly unitName: string;
  /** See `stepKey`. */
  readonly key: string;
  /** In the order that someone chose, its way is not clear. */
  readonly blocked: boolean;
  readonly kit: readonly KitRow[];
  readonly text: string;
  /** Of what is moved in this step, kg; undefined when it is not known. */
  readonly massKg: number | undefined;
  readonly heavy: string | undefined;
  /** What the worker measures, looks at or signs, and other words of the drafter. */
  readonly checks: readonly string[];
  readonly callouts: readonly string[];
  readonly corner: StepWords['corner'];
  /** Of the drafter, instead of the model's. */
  readonly picture: StepWords['picture'];
}

/** What a drafter changes about a step. */
export interface StepWords {
  readonly text?: string | undefined;
  readonly checks?: readonly string[] | undefined;
  readonly callouts?: readonly string[] | undefined;
  /** PNG, base64, and its height over its width. */
  readonly picture?: { readonly png: string; readonly ratio: number } | undefined;
  readonly corner?: readonly [1 | -1, 1 | -1, 1 | -1] | undefined;
}

export interface GuideOptions {
  readonly language?: Language;
  /** Of the drafter, by key of the step. */
  readonly words?: Readonly<Record<string, StepWords>> | undefined;
  readonly columns?: GuideColumns;
  /** The front of the drawing: sides are named by it. Absent: the model's usual one. */
  readonly front?: ViewFrame;
}

export interface Guide {
  readonly steps: readonly GuideStep[];
  readonly checked: boolean;
  readonly language: Language;
}

/**
 * The words of a build guide: what to take, what to do, with which tool. Every component is added in exactly one step.
 */
export function guideOf(
  paths: readonly string[],
  items: readonly Item[],
  order: BuildOrder,
  { language = 'en', words, columns = PLAIN_COLUMNS, front = namedFrame('front') }: GuideOptions = {},
): Guide {
  const itemOf = new Map(items.flatMap((i) => i.components.map((c) => [c, i] as const)));
  const leadOf = (u: number) => itemOf.get(order.units[u]!.lead);
  const unitName = (u: number) => order.units[u]!.name ?? (leadOf(u) ? columns.nameOf(leadOf(u)!) : '');
  const held = new Set(order.inseparable);
  const counts = order.units.map((_, u) => order.steps.filter((s) => s.unit === u).length);
  const places = order.units.map(() => 0);
  const steps = order.steps.map((step, i): GuideStep => {
    const kit = kitOf(step.adds, itemOf, columns);
    const key = stepKey(step, paths);
    const own = words?.[key];
    const moved = step.kind === 'join' ? step.joins : step.adds;
    const masses = moved.map((c) => itemOf.get(c)?.massKg);
    const known = masses.every((m) => m !== undefined) ? masses.reduce<number>((a, b) => a + b!, 0) : undefined;
    // What is put on piece by piece is lifted piece by piece.
    const lifted = step.moves.length > 1 ? Math.max(...masses.map((m) => m ?? 0)) : known;
    return {
      ...step,
      number: i + 1,
      place: ++places[step.unit]!,
      places: counts[step.unit]!,
      unitName: unitName(step.unit),
      key,
      blocked: order.blocked.includes(i),
      kit,
      text:
        own?.text ??
        textOf(
          step,
          kit,
          order,
          language,
          front,
          held.size > 0 && step.adds.some((c) => held.has(c)),
          step.kind === 'join' ? unitName(unitJoined(order, step)) : '',
        ),
      massKg: known,
      heavy: lifted !== undefined && lifted >= HEAVY_KG ? say(PHRASES[language].heavy, { kg: String(Math.round(lifted)) }) : undefined,
      checks: own?.checks ?? [],
      callouts: own?.callouts ?? [],
      corner: own?.corner,
      picture: own?.picture,
    };
  });
  return { steps, checked: order.checked, language };
}

function kitOf(components: readonly number[], itemOf: ReadonlyMap<number, Item>, columns: GuideColumns): KitRow[] {
  const counts = new Map<Item, number>();
  for (const c of components) {
    const item = itemOf.get(c);
    if (item) counts.set(item, (counts.get(item) ?? 0) + 1);
  }
  return [...counts]
    .sort((a, b) => a[0].number - b[0].number)
    .map(([item, quantity]) => ({
      item,
      quantity,
      tool: toolFor(item.values.description.text),
      name: columns.nameOf(item),
      place: columns.placeOf(item),
    }));
}

/** The unit that a step puts in place: that which was built of these components last. */
function unitJoined(order: BuildOrder, step: BuildStep): number {
  const own = new Set(step.joins);
  return order.steps
    .filter((s) => s.kind === 'start' && s.unit !== step.unit && s.adds.some((c) => own.has(c)))
    .reduce((u, s) => Math.min(u, s.unit), Infinity);
}

function textOf(step: BuildStep, kit: readonly KitRow[], order: BuildOrder, language: Language, front: ViewFrame, held: boolean, joined: string): string {
  const p = PHRASES[language];
  const names = kit.map((k) => `${k.quantity > 1 ? `${k.quantity} × ` : ''}${k.name}`);
  const what = listed(names, p.and);
  const from = p.from[sideOf(step, order, front)];
  const phrase = step.kind === 'start' ? (held ? p.startHeld : p.start) : p[step.kind];
  const text = say(phrase, { what, from, name: joined });
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** The side from which everything of a step comes on its last stretch; none when they come from different ones, or aslant. */
function sideOf(step: BuildStep, order: BuildOrder, front: ViewFrame): Side {
  const sides = new Set(step.moves.map((m) => order.pulls[m.pulls[0]!]).map((pull) => (pull && !pull.turn ? sideNamed(pull.direction, front) : 'none')));
  return sides.size === 1 ? [...sides][0]! : 'none';
}

/** As the drawing's front has it. */
function sideNamed(direction: Vec3, front: ViewFrame): Side {
  const [right, up, toward] = [dot(direction, front.right), dot(direction, front.up), dot(direction, front.toward)];
  if (Math.abs(up) > 0.9) return up > 0 ? 'above' : 'below';
  if (Math.abs(right) > 0.9) return right > 0 ? 'right' : 'left';
  if (Math.abs(toward) > 0.9) return toward > 0 ? 'front' : 'behind';
  return 'none';
}

/** `wrench 13`, in the words of a language. */
export function toolText(tool: Tool, language: Language): string {
  const p = PHRASES[language];
  const name = tool.kind === 'wrench' ? p.wrench : tool.kind === 'hex key' ? p.hexKey : p.pliers;
  return tool.sizeMm === undefined ? name : `${name} ${tool.sizeMm}`;
}

/** What the guide of a drawing says as it stands, without pictures. */
export interface GuideWords {
  readonly checked: boolean;
  readonly language: string;
  readonly steps: readonly {
    readonly key: string;
    readonly number: number;
    readonly where: string;
    readonly text: string;
    /** The text is the drafter's. */
    readonly own: boolean;
    readonly ownPicture: boolean;
    readonly kit: readonly string[];
    readonly kind: BuildStep['kind'];
    /** Keys of the steps that it was made of. */
    readonly parts: readonly string[];
    /** How many pieces or sets go on one after the other. */
    readonly moves: number;
    readonly unit: number;
    /** Its way is not clear in the order that was chosen. */
    readonly blocked: boolean;
    readonly checks: readonly string[];
    readonly callouts: readonly string[];
  }[];
}
