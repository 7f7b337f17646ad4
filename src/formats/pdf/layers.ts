/** pdfkit's references, names and dictionaries, as far as they are used here. */
interface Low {
  ref(data: Record<string, unknown>): { data: Record<string, unknown>; end(): void };
  readonly _root: { readonly data: Record<string, unknown> };
  readonly page: { readonly resources: { readonly data: Record<string, unknown> } };
  addContent(operators: string): void;
}

/** Layers that a reader can switch (optional content, ISO 32000-1, 8.11); PDF/A-2 wants them to have names (ISO 19005-2, 6.9; from memory). */
export class PdfLayers {
  private readonly pdf: Low;
  private readonly groups = new Map<string, ReturnType<Low['ref']>>();

  /** @param names of all layers, in the order in which they are listed */
  constructor(pdf: PDFKit.PDFDocument, names: readonly string[]) {
    this.pdf = pdf as unknown as Low;
    for (const name of names) this.groups.set(name, this.pdf.ref({ Type: 'OCG', Name: textString(name) }));
    if (!names.length) return;
    const all = [...this.groups.values()];
    this.pdf._root.data['OCProperties'] = { OCGs: all, D: { Name: textString('Layers'), Order: all, ON: all } };
  }

  /** Names the layers to a page that was begun. */
  begin(): void {
    if (this.groups.size) this.pdf.page.resources.data['Properties'] = Object.fromEntries([...this.groups.values()].map((r, i) => [`L${i}`, r]));
  }

  /** Draws something on a layer. */
  on(name: string, draw: () => void): void {
    const i = [...this.groups.keys()].indexOf(name);
    if (i < 0) return draw();
    this.pdf.addContent(`/OC /L${i} BDC`);
    draw();
    this.pdf.addContent('EMC');
  }

  end(): void {
    for (const r of this.groups.values()) r.end();
  }
}

/** A text, not a name: pdfkit writes String objects in brackets. */
const textString = (s: string): unknown => new String(s);
