import { contains } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { drawBlock, laidBlock } from './draw.ts';
import { docked, withCellChanged, withEdgeMoved, withOuterEdge } from './edit.ts';
import type { BlockRecord } from './layout.ts';

/** How near a block snaps into a corner of the frame, mm. */
const SNAP_MM = 5;

/** Title blocks and other blocks of cells; their edges are dragged, their cells written in place. */
export const blockKind: Kind<BlockRecord> = {
  title: 'block',
  layer: 1,
  draw: drawBlock,

  /** The cell that is pressed. Of a block that stands on a format the sheet answers: a press there asks for the field. */
  press(block, at, scene) {
    const cell = laidBlock(block, scene).cells.find((c) => contains(c.rect, at));
    return { kind: 'record', id: block.id, ...(cell ? { part: `cell-${cell.index}` } : {}) };
  },

  /** Inner edges on the upper and left sides, and both outer edges that do not stand in the corner. */
  handles(block, scene) {
    const { rect, columnEdges, rowEdges } = laidBlock(block, scene);
    const columns = columnEdges.slice(1, -1).map((x, i) => ({ name: `column-${i}`, at: [x, rect.y] as const }));
    const rows = rowEdges.slice(1, -1).map((y, i) => ({ name: `row-${i}`, at: [rect.x, y] as const }));
    return [
      ...columns,
      ...rows,
      { name: 'width', at: [outerX(block, scene), rect.y + rect.height / 2] },
      { name: 'height', at: [rect.x + rect.width / 2, outerY(block, scene)] },
    ];
  },

  drag(block, by, scene, handle) {
    if (handle === undefined) return [{ op: 'put', record: movedBlock(block, scene, by) }];
    const [, kind, index] = /^(column|row)-(\d+)$/.exec(handle) ?? [];
    if (kind === 'column' || kind === 'row') {
      const count = kind === 'column' ? block.columns.length : block.rows.length;
      if (Number(index) >= count - 1) return [];
      return [{ op: 'put', record: withEdgeMoved(block, kind, Number(index), kind === 'column' ? by[0] : by[1]) }];
    }
    if (handle === 'width') return [{ op: 'put', record: withOuterEdge(block, 'column', onRight(block) ? -by[0] : by[0]) }];
    if (handle === 'height') return [{ op: 'put', record: withOuterEdge(block, 'row', onFoot(block) ? -by[1] : by[1]) }];
    return [];
  },

  texts(block, scene) {
    return laidBlock(block, scene).cells.flatMap((c) =>
      c.cell.symbol
        ? []
        : [
            {
              name: `cell-${c.index}`,
              label: c.cell.caption || `Row ${c.cell.row + 1}, column ${c.cell.column + 1}`,
              box: c.rect,
              height: c.size,
              value: c.cell.text,
              write: (words: string) => [{ op: 'put' as const, record: withCellChanged(block, c.index, { text: words.slice(0, 2000) }) }],
            },
          ],
    );
  },
};

/** Docked at the right or at the foot, a block grows to the left, or upwards. */
const onRight = (b: BlockRecord) => b.corner?.endsWith('right') ?? false;
const onFoot = (b: BlockRecord) => b.corner?.startsWith('bottom') ?? false;

const outerX = (b: BlockRecord, scene: Scene) => {
  const { rect } = laidBlock(b, scene);
  return onRight(b) ? rect.x : rect.x + rect.width;
};
const outerY = (b: BlockRecord, scene: Scene) => {
  const { rect } = laidBlock(b, scene);
  return onFoot(b) ? rect.y : rect.y + rect.height;
};

/** A block that is dragged: into a corner of the frame when it comes near, else free. */
function movedBlock(block: BlockRecord, scene: Scene, [dx, dy]: Vec2): BlockRecord {
  const { rect } = laidBlock(block, scene);
  const { frame } = scene.page(block.sheet).geometry;
  const [x, y] = [rect.x + dx, rect.y + dy];
  const near = (a: number, b: number) => Math.abs(a - b) < SNAP_MM;
  const across = near(x, frame.x) ? 'left' : near(x + rect.width, frame.x + frame.width) ? 'right' : undefined;
  const down = near(y, frame.y) ? 'top' : near(y + rect.height, frame.y + frame.height) ? 'bottom' : undefined;
  return across && down ? docked(block, `${down} ${across}`) : { ...without(block, 'corner'), at: [x, y] };
}
