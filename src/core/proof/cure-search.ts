import { Scene } from '../../elements/scene.ts';
import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { checkCancel, QuarryError, type Cancel } from '../base/errors.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import { cutScene } from '../cut/cut-scene.ts';
import { suggestKeptWhole } from '../cut/keep-whole.ts';
import { turnedRound, type LineCut } from '../cut/section-line.ts';
import type { DrawingDocument } from '../document/records.ts';
import { plainPull, pullsOf } from '../explode/records.ts';
import { motionsOf, movedBodies } from '../explode/spread.ts';
import { DIRECTION_NAMES, inFrameOf, isometricFrom, sideFrame, type Corner, type ViewFrame } from '../outline/directions.ts';
import { frontOf } from '../document/front.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { itemColor } from '../shade/colors.ts';
import { writePng } from '../shade/png.ts';
import { planeBox, rasterize, visiblePixels, windowAround } from '../shade/raster.ts';
import { cuttingLines } from './cure-steps.ts';

type Box = readonly [number, number, number, number];

/** A way to show an item: another direction, a cut, or a view of a spread. */
export interface Cure {
  readonly kind: 'direction' | 'section' | 'spread';
  readonly name: string;
  readonly frame: ViewFrame;
  /** Of a section: its plane, what stays whole (paths), and the view that carries its line. */
  readonly cut?: { readonly normal: Vec3; readonly d: number; readonly keptWhole: readonly string[]; readonly shownIn: string };
  /** Id of the spread. */
  readonly spread?: string;
  /** Of the piece that is shown, and of everything; minX minY maxX maxY in the frame, model mm. */
  readonly box: Box;
  readonly whole: Box;
  /** What is seen of the piece, mm² at 1:1, and the share of its own outline, 0…1. */
  readonly areaMm2: number;
  readonly share: number;
  /** The item in its colour among the others, PNG. */
  readonly picture: Uint8Array;
}

/** As a page is told: its picture as a data URI. */
export type ShownCure = Omit<Cure, 'picture'> & { readonly picture: string };

/** Pixels across the piece when it is measured, and across a picture. */
const LOOK_PIXELS = 220;
const PICTURE_PIXELS = 320;
/** Of the whole around the piece that a picture shows, in sizes of the piece. */
const AROUND = 2.5;
/** Less of an outline than this is no sight of it. */
const LEAST_SHARE = 0.05;
/** So many of each kind are worth a picture. */
const OF_A_KIND = 2;
const OTHERS = [226, 222, 213] as const;

const CORNERS: readonly (readonly [string, Corner])[] = [
  ['Pictorial from the right', [1, -1, 1]],
  ['Pictorial from the left', [-1, -1, 1]],
  ['Pictorial from behind, right', [1, 1, 1]],
  ['Pictorial from behind, left', [-1, 1, 1]],
  ['Pictorial from below, right', [1, -1, -1]],
  ['Pictorial from below, left', [-1, -1, -1]],
  ['Pictorial from below, behind, right', [1, 1, -1]],
  ['Pictorial from below, behind, left', [-1, 1, -1]],
];

interface Look {
  readonly kind: Cure['kind'];
  readonly name: string;
  readonly frame: ViewFrame;
  readonly bodies: readonly Body[];
  readonly cut?: Cure['cut'];
  readonly spread?: string;
}

/**
 * Ways to show an item that is seen nowhere or badly, the best of each kind first: what each would show is measured on the model, a pixel
 * each 220th of the piece.
 * @param part id of the item's part
 * @throws QuarryError CANCELLED, NOT_FOUND for an item that the model does not have
 */
export function searchCures(
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  document: DrawingDocument,
  part: string,
  cancel?: Cancel,
  onProgress?: (share: number) => void,
): Cure[] {
  const scene = new Scene({ document, assembly, results: new Map() });
  const piece = scene.items.find((i) => i.part === part)?.components[0];
  if (piece === undefined) throw new QuarryError('NOT_FOUND', { what: 'The item' });
  const looks = [...looksAt(scene, sceneOf(assembly, geometries), part)];
  const found = looks.flatMap((look, i) => {
    checkCancel(cancel);
    onProgress?.(i / looks.length);
    const seen = measured(look, piece, scene.components.length);
    return seen && seen.share >= LEAST_SHARE ? [{ look, ...seen }] : [];
  });
  const best = (['direction', 'section', 'spread'] as const).flatMap((kind) =>
    found
      .filter((f) => f.look.kind === kind)
      .sort((a, b) => b.areaMm2 - a.areaMm2 || b.share - a.share)
      .slice(0, OF_A_KIND),
  );
  return best.map(({ look, box, whole, areaMm2, share }): Cure => {
    const { kind, name, frame, cut, spread } = look;
    return {
      kind,
      name,
      frame,
      ...(cut ? { cut } : {}),
      ...(spread ? { spread } : {}),
      box,
      whole,
      areaMm2,
      share,
      picture: picture(look, piece, box, whole, scene),
    };
  });
}

/** Everything that is tried: six sides, eight corners, cuts through its middle from both sides, and each spread as its views show it. */
function* looksAt(scene: Scene, bodies: readonly Body[], part: string): Generator<Look> {
  const front = frontOf(scene.document);
  const cornerOf = (corner: Corner) => inFrameOf(front, isometricFrom(corner));
  for (const name of DIRECTION_NAMES)
    if (name !== 'isometric')
      yield { kind: 'direction', name: `From the ${name}`.replace('the top', 'above').replace('the bottom', 'below'), frame: sideFrame(front, name), bodies };
  for (const [name, corner] of CORNERS) yield { kind: 'direction', name, frame: cornerOf(corner), bodies };
  for (const { parent, cut } of cuttingLines(scene, part)) {
    // Seen from the other side it shares the same axis with the view that carries its line.
    const shared = Math.abs(dot(cut.frame.right, parent.right)) > 0.9999 ? 'right' : 'up';
    for (const side of [cut, turnedRound(cut, shared)]) yield sectionLook(scene, bodies, parent.id, side, parent.name);
  }
  for (const spread of scene.all('spread')) {
    const frames = scene.all('view').filter((v) => v.spread === spread.id && !v.off);
    const apart = movedBodies(bodies, motionsOf(pullsOf(spread, scene.components).map(plainPull), scene.components.length));
    for (const frame of [...frames, cornerOf([1, -1, 1]), cornerOf([-1, 1, 1]), cornerOf([1, -1, -1])])
      yield {
        kind: 'spread',
        name: `${spread.name}, from ${frames.includes(frame as never) ? 'where it is shown' : 'another side'}`,
        frame,
        bodies: apart,
        spread: spread.id,
      };
  }
}

function sectionLook(scene: Scene, bodies: readonly Body[], shownIn: string, { frame, plane }: LineCut, on: string): Look {
  const { assembly, components } = scene;
  const kept = suggestKeptWhole(assembly, components, bodies, plane).map((k) => k.component);
  const { bodies: cut } = cutScene(bodies, plane, { keptWhole: new Set(kept) }, frame);
  return {
    kind: 'section',
    name: `Section, its line on ${on}`,
    frame,
    bodies: cut,
    cut: { ...plane, keptWhole: kept.map((c) => components[c]!.path), shownIn },
  };
}

/** What is seen of the piece: a raster of its own box, so that the small is measured as closely as the large. */
function measured({ frame, bodies }: Look, piece: number, count: number): Pick<Cure, 'box' | 'whole' | 'areaMm2' | 'share'> | undefined {
  const own = bodies.filter((b) => b.component === piece);
  if (!own.length) return undefined;
  const box = planeBox(projectScene(own, frame));
  const all = projectScene(bodies, frame);
  const window = windowAround(box, LOOK_PIXELS);
  const raster = rasterize(all, window, count);
  const pixels = visiblePixels(raster, count)[piece]!;
  const silhouette = raster.silhouette[piece]!;
  return { box, whole: planeBox(all), areaMm2: pixels * window.pixelMm ** 2, share: silhouette ? pixels / silhouette : 0 };
}

function picture({ frame, bodies }: Look, piece: number, box: Box, whole: Box, scene: Scene): Uint8Array {
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const half = (Math.max(w, h) * AROUND) / 2;
  const [x, y] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  const around: Box = [Math.max(whole[0], x - half), Math.max(whole[1], y - half), Math.min(whole[2], x + half), Math.min(whole[3], y + half)];
  const components = componentsOf(scene.assembly);
  const colors = components.map((c) => (c.index === piece ? itemColor(c.part) : OTHERS));
  const window = windowAround(around, PICTURE_PIXELS);
  const { rgba } = rasterize(projectScene(bodies, frame), window, components.length, { colors });
  return writePng(window.width, window.height, rgba!);
}
