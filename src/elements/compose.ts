import type { SheetRecord } from '../core/document/records.ts';
import type { DisplayList, Drawn } from '../core/picture/display-list.ts';
import { isElement, kindOf, type ElementRecord } from './kinds.ts';
import { onLayers } from './layers.ts';
import type { Scene } from './scene.ts';
import { drawFormat } from './sheet/on-format.ts';

/** Elements of a sheet in the order in which they are drawn: what stands on it, and what belongs to that. */
export function elementsOn(scene: Scene, sheet: string): ElementRecord[] {
  const record = scene.one('sheet', sheet);
  if (!record) throw new RangeError(`No sheet ${sheet}`);
  const out: ElementRecord[] = [record];
  // What is switched off is not drawn, and nothing that belongs to it.
  const drawn = (r: ElementRecord) => !(r.type === 'view' && r.off);
  for (let i = 0; i < out.length; i++) out.push(...scene.at(out[i]!.id).filter((r): r is ElementRecord => isElement(r) && drawn(r)));
  return out.sort((a, b) => kindOf(a).layer - kindOf(b).layer || (a.id < b.id ? -1 : 1));
}

/** Draws one sheet. The same scene gives the same picture. @throws RangeError for an unknown sheet */
export function composeSheet(scene: Scene, sheet: string): DisplayList<Drawn> {
  const { width, height } = scene.page(sheet).geometry;
  const [own, ...elements] = elementsOn(scene, sheet);
  const under = [...kindOf(own!).draw(own!, scene), ...drawFormat(scene, own as SheetRecord)];
  return { width, height, groups: onLayers([...under, ...elements.flatMap((r) => kindOf(r).draw(r, scene))], scene) };
}

/** Everything that a sheet's picture is made of: as long as these are the same objects, the picture is the same. */
export function inputsOf(scene: Scene, sheet: string): readonly unknown[] {
  const elements = elementsOn(scene, sheet);
  const { format } = elements[0] as SheetRecord;
  const views = elements.flatMap((r) =>
    r.type === 'view' ? [scene.result(r.id), ...scene.sectionsShownIn(r.id), ...scene.detailsOf(r.id), ...scene.arrowsOn(r.id)] : [],
  );
  return [
    scene.drawing,
    scene.ledger,
    scene.partFeatures,
    scene.threads,
    scene.items,
    scene.one('model', 'model'),
    scene.one('layers', 'layers'),
    scene.one('sheet', format),
    ...(format ? scene.at(format) : []),
    scene.sheets.length,
    scene.sheets.findIndex((s) => s.id === sheet),
    ...elements,
    ...views,
  ];
}
