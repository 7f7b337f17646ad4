import { decode } from 'fast-png';
import { luma } from '../../core/picture/grey.ts';

interface Ref {
  end(data?: Uint8Array): void;
}
interface Referring {
  ref(data: Record<string, unknown>): Ref;
}

/**
 * A PNG as pdfkit wants pictures: it is put into the file once, whatever number of pages shows it, and at once, so that the same
 * pictures always give the same bytes (pdfkit's own unpacks transparent ones whenever a thread is free).
 */
export class PdfPicture {
  readonly width: number;
  readonly height: number;
  readonly label: string;
  obj: Ref | null = null;
  private readonly rgb: Uint8Array;
  private readonly alpha: Uint8Array | undefined;

  /** @param grey without its colours */
  constructor(png: Uint8Array, label: string, grey = false) {
    const { width, height, data, channels, depth, palette } = decode(png);
    [this.width, this.height, this.label] = [width, height, label];
    const count = width * height;
    this.rgb = new Uint8Array(3 * count);
    const alpha = new Uint8Array(count).fill(255);
    const of = (i: number, k: number) => (depth === 16 ? data[i * channels + k]! >> 8 : data[i * channels + k]!);
    for (let i = 0; i < count; i++) {
      const indexed = palette?.[data[i]!];
      const [r, g, b, a] = indexed
        ? [indexed[0]!, indexed[1]!, indexed[2]!, indexed[3] ?? 255]
        : channels < 3
          ? [of(i, 0), of(i, 0), of(i, 0), channels === 2 ? of(i, 1) : 255]
          : [of(i, 0), of(i, 1), of(i, 2), channels === 4 ? of(i, 3) : 255];
      const v = luma(r, g, b);
      this.rgb.set(grey ? [v, v, v] : [r, g, b], 3 * i);
      alpha[i] = a;
    }
    this.alpha = alpha.some((a) => a < 255) ? alpha : undefined;
  }

  /** Called by pdfkit when it is drawn for the first time. */
  embed(pdf: Referring): void {
    if (this.obj) return;
    const common = { Type: 'XObject', Subtype: 'Image', BitsPerComponent: 8, Width: this.width, Height: this.height };
    const mask = this.alpha && pdf.ref({ ...common, ColorSpace: 'DeviceGray' });
    mask?.end(this.alpha);
    this.obj = pdf.ref({ ...common, ColorSpace: 'DeviceRGB', ...(mask ? { SMask: mask } : {}) });
    this.obj.end(this.rgb);
  }
}
