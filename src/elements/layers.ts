import type { DrawingDocument, RecordOf } from '../core/document/records.ts';
import type { Step } from '../core/document/steps.ts';
import { layerOf } from '../core/picture/layers.ts';
import type { DisplayGroup } from '../core/picture/display-list.ts';
import type { Scene } from './scene.ts';

type LayersRecord = RecordOf<'layers'>;

/** Layers of a drawing that nobody changed. */
export const PLAIN_LAYERS: LayersRecord = { type: 'layers', id: 'layers', off: [], own: [] };

const layersIn = (document: DrawingDocument): LayersRecord => {
  const record = document['layers'];
  return record?.type === 'layers' ? record : PLAIN_LAYERS;
};

/** The layer of one's own that an element lies on. */
export const ownLayer = (scene: Scene, id: string): string | undefined => layersIn(scene.document).own.find((l) => l.of.includes(id))?.name;

/** Groups with the layers of one's own that they lie on; what is on layers that are switched off is left out. */
export function onLayers<G extends DisplayGroup>(groups: readonly G[], scene: Scene): readonly G[] {
  const { off, own } = layersIn(scene.document);
  if (!off.length && !own.length) return groups;
  const layer = new Map(own.flatMap((l) => l.of.map((id) => [id, l.name] as const)));
  const hidden = new Set(off);
  return groups
    .map((g) => {
      const name = layer.get(g.id.split('/')[0]!);
      return name === undefined ? g : { ...g, layer: name };
    })
    .filter((g) => !hidden.has(layerOf(g)));
}

/** Puts elements on a layer of one's own; without a name back on that of their kind. Layers that nothing lies on any more go. */
export function putOnLayer(scene: Scene, ids: readonly string[], name: string | undefined): Step[] {
  const record = layersIn(scene.document);
  const moved = new Set(ids);
  const rest = record.own.map((l) => ({ ...l, of: l.of.filter((id) => !moved.has(id) && scene.document[id] !== undefined) }));
  const known = rest.some((l) => l.name === name);
  const own = [...rest, ...(name && !known ? [{ name, of: [] }] : [])]
    .map((l) => (l.name === name ? { ...l, of: [...l.of, ...ids] } : l))
    .filter((l) => l.of.length);
  return [{ op: 'put', record: { ...record, own } }];
}

export function switchLayer(scene: Scene, name: string, on: boolean): Step[] {
  const record = layersIn(scene.document);
  const off = record.off.filter((n) => n !== name);
  return [{ op: 'put', record: { ...record, off: on ? off : [...off, name] } }];
}

/** Layers that are switched off. */
export const layersOff = (scene: Scene): readonly string[] => layersIn(scene.document).off;
export const ownLayers = (scene: Scene): readonly string[] => layersIn(scene.document).own.map((l) => l.name);
