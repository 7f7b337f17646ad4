import { MOST_CHARACTERS } from '../../../core/document/fields';

/** Longer sides are brought down to this many pixels: 300 per inch on half an A4 sheet. */
const MOST_PIXELS = 1800;

export interface ReadPicture {
  readonly name: string;
  readonly png: string;
  readonly ratio: number;
}

/**
 * A PNG or SVG file as it is kept on a sheet; drawings become pixels.
 * @returns a sentence for the user when it cannot be taken
 */
export async function readPicture(file: File): Promise<ReadPicture | { readonly wrong: string }> {
  if (!/\.(png|svg)$/i.test(file.name)) return { wrong: `“${file.name}” is no PNG or SVG file.` };
  const url = URL.createObjectURL(/\.svg$/i.test(file.name) ? new Blob([await file.arrayBuffer()], { type: 'image/svg+xml' }) : file);
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const svg = /\.svg$/i.test(file.name);
    const [w, h] = [image.naturalWidth || 300, image.naturalHeight || 150];
    // Drawings have no pixels of their own: they are made fine.
    const k = svg ? MOST_PIXELS / Math.max(w, h) : Math.min(1, MOST_PIXELS / Math.max(w, h));
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [Math.max(1, Math.round(w * k)), Math.max(1, Math.round(h * k))];
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    const png = canvas.toDataURL('image/png').split(',')[1]!;
    if (png.length > MOST_CHARACTERS) return { wrong: `“${file.name}” is larger than 1 MB. Make it smaller first.` };
    return { name: file.name.slice(0, 200), png, ratio: h / w };
  } catch {
    return { wrong: `“${file.name}” cannot be read as a picture.` };
  } finally {
    URL.revokeObjectURL(url);
  }
}
