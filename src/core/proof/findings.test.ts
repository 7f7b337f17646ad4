import { describe, expect, test } from 'vitest';
import { recordsOf, type BalloonRecord, type DrawingDocument, type ViewRecord } from '../document/records.ts';
import { composeSheet } from '../picture/compose.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { findingsOf } from './findings.ts';

const drawn = await draftAll(smallMachine());

/** The findings after a change of the document. */
function after(change: Record<string, unknown>, without: readonly string[] = []) {
  const document = Object.fromEntries(Object.entries({ ...drawn.document, ...change }).filter(([id]) => !without.includes(id))) as DrawingDocument;
  const sheets = new Map([...drawn.sheets.keys()].map((id) => [id, composeSheet({ ...drawn, document }, id)]));
  return findingsOf({ ...drawn, document, sheets }).filter((f) => f.code !== 'LIST_GAP');
}
const exploded = drawn.document['view:exploded'] as ViewRecord;

describe('a checker would mark', () => {
  test('an item without a balloon', () => {
    expect(after({}, ['balloon:Ring'])).toMatchObject([{ code: 'NOT_IDENTIFIED', about: ['Ring'], severity: 'trouble' }]);
  });

  test('a view over another', () => {
    const front = drawn.document['view:front'] as ViewRecord;
    expect(after({ 'view:right': { ...(drawn.document['view:right'] as ViewRecord), at: front.at } }).map((f) => f.code)).toContain('OVERLAP');
  });

  test('a view over the frame', () => {
    expect(after({ 'view:exploded': { ...exploded, at: [5, exploded.at[1]] } }).map((f) => f.code)).toContain('OUTSIDE_FRAME');
  });

  test('leaders that cross, and one that is level', () => {
    const [a, b] = recordsOf(drawn.document, 'balloon').filter((x) => x.view === 'view:exploded') as [BalloonRecord, BalloonRecord];
    // Both leaders through one point beside their tips.
    const tip = (x: BalloonRecord) => [(x.anchor[0] - exploded.pivot[0]) * exploded.scale, -(x.anchor[1] - exploded.pivot[1]) * exploded.scale] as const;
    const [p, q] = [tip(a), tip(b)];
    const meet = [(p[0] + q[0]) / 2 - (q[1] - p[1]), (p[1] + q[1]) / 2 + (q[0] - p[0])] as const;
    const through = (x: BalloonRecord, t: readonly [number, number]) => ({ ...x, offset: [2 * meet[0] - t[0], 2 * meet[1] - t[1]] });
    expect(after({ [a.id]: through(a, p), [b.id]: through(b, q) }).map((f) => f.code)).toContain('LEADERS_CROSS');
    const tipY = exploded.at[1] - (a.anchor[1] - exploded.pivot[1]) * exploded.scale;
    expect(after({ [a.id]: { ...a, offset: [a.offset[0] - 20, tipY - exploded.at[1]] } }).map((f) => f.code)).toContain('LEADER_SLANT');
  });

  test('an item that no view shows', () => {
    const results = new Map([...drawn.results].map(([id, r]) => [id, { ...r, visibleArea: r.visibleArea.map((v, i) => (i === 5 ? 0 : v)) }]));
    const codes = findingsOf({ ...drawn, results })
      .filter((f) => f.about.includes('Ring'))
      .map((f) => f.code);
    expect(codes).toContain('SEEN_NOWHERE');
  });

  test('missing data, by its name', () => {
    expect(drawn.findings.find((f) => f.about.includes('Ring'))?.text).toBe('6 Ring: source, material, drawing number missing.');
    expect(drawn.findings.some((f) => f.about.includes('Plate'))).toBe(false);
  });
});
