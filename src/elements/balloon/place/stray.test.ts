import { describe, expect, test } from 'vitest';
import { recordsOf, type BalloonRecord } from '../../../core/document/records.ts';
import { applySteps } from '../../../core/document/steps.ts';
import { draftAll, smallMachine } from '../../../core/testing/drafting.ts';
import { Scene } from '../../scene.ts';
import { reaimSteps, strayBalloons } from './stray.ts';

const drawn = await draftAll(smallMachine());

describe('balloons that lost their target', () => {
  test('none right after the first drawing', () => {
    expect(strayBalloons(drawn.scene)).toEqual([]);
  });
  test('are found, and re-aimed at the nearest edge of their own component', () => {
    const b = recordsOf(drawn.document, 'balloon')[0]!;
    const moved: BalloonRecord = { ...b, anchor: [b.anchor[0] + 500, b.anchor[1] + 500] };
    const doc = { ...drawn.document, [b.id]: moved };
    const strays = strayBalloons(new Scene({ ...drawn, document: doc }));
    expect(strays.map((s) => s.balloon.id)).toEqual([b.id]);
    const done = applySteps(doc, reaimSteps(strays));
    expect(done.ok && strayBalloons(new Scene({ ...drawn, document: done.document }))).toEqual([]);
    expect(done.ok && (done.document[b.id] as BalloonRecord).offset).toEqual(b.offset);
  });
  test('whose component is gone have no place to go', () => {
    const b = recordsOf(drawn.document, 'balloon')[0]!;
    const strays = strayBalloons(new Scene({ ...drawn, document: { ...drawn.document, [b.id]: { ...b, component: 'nowhere' } } }));
    expect(strays).toMatchObject([{ aim: undefined }]);
    expect(reaimSteps(strays)).toEqual([]);
  });
});
