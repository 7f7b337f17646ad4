import type { DisplayGroup, DisplayItem } from '../../core/picture/display-list.ts';

type Text = Extract<DisplayItem, { kind: 'text' }>;

/** Roles that say nothing to whoever listens. */
const SILENT = new Set(['frame']);
/** What is a picture: its label is read instead of its lines. */
const PICTURES = new Set(['view', 'picture', 'figure', 'step', 'centre', 'cloud', 'sign', 'code']);

/**
 * Tags of a page: what a screen reader reads, in the order in which it stands in the file (ISO 32000-1, 14.8). Pictures are read by their
 * labels, texts as paragraphs, lists row by row.
 */
export class PageTags {
  private readonly pdf: PDFKit.PDFDocument;
  private readonly section: PDFKit.PDFStructureElement;

  constructor(pdf: PDFKit.PDFDocument, document: PDFKit.PDFStructureElement, title: string) {
    this.pdf = pdf;
    this.section = pdf.struct('Sect', { title });
    document.add(this.section);
  }

  group(g: DisplayGroup, draw: (items: readonly DisplayItem[]) => void): void {
    if (SILENT.has(g.role)) return this.silent(() => draw(g.items));
    if (PICTURES.has(g.role)) return this.leaf(this.section, 'Figure', () => draw(g.items), g.label);
    // Lines around texts are no words.
    const drawn = g.items.filter((i) => i.kind !== 'text');
    if (drawn.length) this.silent(() => draw(drawn));
    const texts = g.items.filter((i): i is Text => i.kind === 'text');
    if (!texts.length) return;
    if (g.role !== 'list' && g.role !== 'table' && g.role !== 'revisions' && g.role !== 'positions') {
      this.leaf(this.section, 'P', () => draw(texts));
      return;
    }
    const table = this.pdf.struct('Table', { title: g.label });
    this.section.add(table);
    for (const row of rowsIn(texts)) {
      const tr = this.pdf.struct('TR');
      table.add(tr);
      for (const cell of row) this.leaf(tr, 'TD', () => draw([cell]));
      tr.end();
    }
    table.end();
  }

  /** What is drawn and not read. */
  silent(draw: () => void): void {
    this.pdf.markContent('Artifact', { type: 'Layout' });
    draw();
    this.pdf.endMarkedContent();
  }

  end(): void {
    this.section.end();
  }

  private leaf(parent: PDFKit.PDFStructureElement, tag: string, draw: () => void, alt?: string): void {
    const content = this.pdf.markStructureContent(tag);
    draw();
    this.pdf.endMarkedContent();
    const element = this.pdf.struct(tag, alt ? { alt } : {});
    element.add(content);
    parent.add(element);
    element.end();
  }
}

/** Texts of a table by their lines; those of one line from the left. */
function rowsIn(texts: readonly Text[]): Text[][] {
  const rows = new Map<number, Text[]>();
  for (const t of texts) {
    const y = Math.round(t.y * 2);
    rows.set(y, [...(rows.get(y) ?? []), t]);
  }
  return [...rows.values()].map((r) => r.sort((a, b) => a.x - b.x));
}
