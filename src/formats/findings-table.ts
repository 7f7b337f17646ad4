import { numberText } from '../core/ledger/items.ts';
import { coverageCells } from '../core/proof/coverage.ts';
import { findingsOf } from '../core/proof/findings.ts';
import type { Scene } from '../elements/scene.ts';

/** The proof as a table: findings, then what each view shows of each item. */
export function findingsTable(scene: Scene): string[][] {
  const sheetOf = (id: string | null) => (id === null ? '' : String(scene.sheets.findIndex((s) => s.id === id) + 1));
  const cells = coverageCells(scene);
  return [
    ['What', 'Severity', 'Sheet', 'Finding', 'Accepted because'],
    ...findingsOf(scene).map((f) => [f.code, f.severity, sheetOf(f.sheet), f.text, f.accepted?.reason ?? '']),
    [],
    ['Item', 'Description', 'View', 'Seen, mm² on paper', 'Share of its outline', 'Balloon'],
    ...cells.map((c) => {
      const item = scene.items.find((i) => i.number === c.item)!;
      return [
        numberText(item),
        item.values.description.text,
        scene.one('view', c.view)?.name ?? '',
        c.visibleMm2.toFixed(1),
        c.share.toFixed(2),
        c.balloon ? 'yes' : '',
      ];
    }),
  ];
}
