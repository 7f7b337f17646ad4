import { describe, expect, test } from 'vitest';
import { recordsOf, type BalloonRecord, type ViewRecord } from '../../../core/document/records.ts';
import { applySteps } from '../../../core/document/steps.ts';
import { itemsOf, type Item } from '../../../core/ledger/items.ts';
import { balloonPlace } from '../draw.ts';
import { draftAll, smallMachine } from '../../../core/testing/drafting.ts';
import { segmentsCross } from '../../../core/base/rect.ts';
import { Scene } from '../../scene.ts';
import { arrangeBalloons } from './propose.ts';
import { strayBalloons } from './stray.ts';

const drawn = await draftAll(smallMachine());
const view = drawn.document['view:exploded'] as ViewRecord;
const items = itemsOf(drawn.assembly, drawn.document);
const area = { allowed: { x: 23, y: 13, width: 374, height: 271 }, obstacles: [], diameter: 10 };
const balloons = recordsOf(drawn.document, 'balloon').filter((b) => b.view === view.id);

/** All in one heap, as after a change of scale. */
const heap = Object.fromEntries(balloons.map((b, i): [string, BalloonRecord] => [b.id, { ...b, offset: [i * 0.5, 0] }]));

function arranged(document: typeof drawn.document, of = items) {
  const steps = arrangeBalloons(document, view, drawn.results.get(view.id)!, of, drawn.components, area);
  const done = applySteps(document, steps);
  if (!done.ok) throw new Error('steps do not apply');
  return done.document;
}

describe('balloons arranged anew', () => {
  test('stand apart, end on their parts and do not cross', () => {
    const document = arranged({ ...drawn.document, ...heap });
    const places = balloons.map((b) => balloonPlace(document[b.id] as BalloonRecord, view));
    places.forEach((a, i) => {
      for (const b of places.slice(i + 1)) {
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(10);
        expect(segmentsCross(a.x, a.y, a.tipX, a.tipY, b.x, b.y, b.tipX, b.tipY)).toBe(false);
      }
    });
    expect(strayBalloons(new Scene({ ...drawn, document }))).toEqual([]);
  });

  test('leave alone what was put somewhere by hand, and leaders that end in a face', () => {
    const [first, second] = balloons as [BalloonRecord, BalloonRecord];
    const own = { [first.id]: { ...first, byHand: true as const }, [second.id]: { ...second, end: 'dot' as const } };
    const before = { ...drawn.document, ...heap, ...own };
    const document = arranged(before);
    expect(document[first.id]).toBe(before[first.id]);
    expect(document[second.id]).toBe(before[second.id]);
  });

  test('of an item with several each stays with its own component', () => {
    // The two blocks as two components of one item.
    const [left, right] = items.filter((i) => i.values.description.text.startsWith('Block')) as [Item, Item];
    const both = { ...left, components: [...left.components, ...right.components] };
    const two = both.components.map((c, k): [string, BalloonRecord] => {
      const id = `balloon:two#${k}`;
      return [id, { type: 'balloon', id, view: view.id, component: drawn.components[c]!.path, anchor: [0, 0], offset: [0, 0], end: 'arrow' }];
    });
    const others = items.filter((i) => i !== left && i !== right);
    const alone = Object.fromEntries(Object.entries(drawn.document).filter(([, r]) => r.type !== 'balloon'));
    const document = arranged({ ...alone, ...Object.fromEntries(two) }, [both, ...others]);
    for (const [id, b] of two) {
      const after = document[id] as BalloonRecord;
      expect(after.component).toBe(b.component);
      expect(after.offset).not.toEqual(b.offset);
    }
  });
});
