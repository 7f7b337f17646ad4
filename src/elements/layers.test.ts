import { expect, test } from 'vitest';
import { applySteps, type Step } from '../core/document/steps.ts';
import { findingsOf, fixOf } from '../core/proof/findings.ts';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { writeSvg } from '../formats/svg.ts';
import { composeSheet } from './compose.ts';
import { ownLayer, ownLayers, putOnLayer, switchLayer } from './layers.ts';
import { Scene } from './scene.ts';

const drawn = await draftAll(smallMachine());
const after = (scene: Scene, steps: readonly Step[]): Scene => {
  const r = applySteps(scene.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document });
};
const sheet = drawn.scene.sheets[1]!.id;
const roles = (scene: Scene) => new Set(composeSheet(scene, sheet).groups.map((g) => g.role));
const [first, second] = drawn.scene.all('balloon').filter((b) => drawn.scene.one('view', b.view)?.sheet === sheet);

test('what is on a layer that is switched off is neither drawn nor printed, and that is said; one press brings it back', () => {
  expect(roles(drawn.scene)).toContain('balloon');
  const off = after(drawn.scene, switchLayer(drawn.scene, 'Balloons', false));
  expect(roles(off)).not.toContain('balloon');
  expect(roles(off)).toContain('list');
  const [finding] = findingsOf(off).filter((f) => f.code === 'LAYER_OFF');
  expect(finding!.text).toContain('Balloons');
  const on = after(
    off,
    fixOf(finding!, off, (t) => t),
  );
  expect(roles(on)).toEqual(roles(drawn.scene));
  // The records are all there: nothing is found missing.
  expect(findingsOf(off).filter((f) => f.code === 'NOT_IDENTIFIED')).toEqual([]);
});

test('elements lie on a layer of one’s own, alone or several, and go back to that of their kind', () => {
  const one = after(drawn.scene, putOnLayer(drawn.scene, [first!.id, second!.id], 'For the shop'));
  expect(ownLayers(one)).toEqual(['For the shop']);
  expect(ownLayer(one, first!.id)).toBe('For the shop');
  const off = after(one, switchLayer(one, 'For the shop', false));
  const count = (s: Scene) => composeSheet(s, sheet).groups.filter((g) => g.role === 'balloon').length;
  expect(count(off)).toBe(count(drawn.scene) - 2);
  // With its kind's layer off it stays: it lies on its own.
  expect(count(after(one, switchLayer(one, 'Balloons', false)))).toBe(2);
  // A layer that nothing lies on is gone.
  const back = after(one, putOnLayer(one, [first!.id, second!.id], undefined));
  expect(ownLayers(back)).toEqual([]);
  const moved = after(one, putOnLayer(one, [second!.id], 'Other'));
  expect([ownLayer(moved, first!.id), ownLayer(moved, second!.id)]).toEqual(['For the shop', 'Other']);
});

test('in an SVG layers, components and items are groups that say which', () => {
  const one = after(drawn.scene, putOnLayer(drawn.scene, [first!.id], 'For the <shop>'));
  const svg = writeSvg(composeSheet(one, sheet));
  for (const name of ['Sheet', 'Views', 'Balloons', 'Parts list', 'For the &lt;shop&gt;']) expect(svg).toContain(`data-layer="${name}"`);
  const item = drawn.scene.itemAt(first!.component)!;
  expect(svg).toContain(`data-component="${item.components[0]}"`);
  expect(svg).toContain(`data-item="${item.number}"`);
  // Every group is closed.
  expect(svg.split('<g ').length).toBe(svg.split('</g>').length);
});
