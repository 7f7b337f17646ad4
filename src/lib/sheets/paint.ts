import type { DisplayItem } from '$core/picture/display-list';
import { emFor } from '$core/picture/lettering';
import { inOnePath } from './in-one-path';

/** Lines are at least this wide, px: thinner ones would be grey dust. */
const LEAST_PX = 0.15;

/** Paints items on a canvas as large as it is on the screen. */
export function paint(
  canvas: HTMLCanvasElement,
  page: { readonly width: number; readonly height: number },
  items: readonly DisplayItem[],
  imageOf: (id: string) => string | undefined,
): void {
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.max(1, Math.round(canvas.clientWidth * ratio));
  canvas.height = Math.max(1, Math.round(canvas.clientHeight * ratio));
  const context = canvas.getContext('2d');
  if (!context) return;
  const k = canvas.height / page.height;
  context.setTransform(k, 0, 0, k, 0, 0);
  context.lineCap = 'round';
  context.lineJoin = 'round';
  for (const i of inOnePath(items)) {
    if (i.kind === 'stroke') {
      context.strokeStyle = i.color ?? '#000';
      context.lineWidth = Math.max(i.width, LEAST_PX / k);
      context.setLineDash(i.dash ? [...i.dash] : []);
      context.stroke(new Path2D(i.d));
    } else if (i.kind === 'fill') {
      context.fillStyle = i.color;
      context.fill(new Path2D(i.d), 'evenodd');
    } else if (i.kind === 'text') {
      context.fillStyle = i.color ?? '#000';
      context.font = `${emFor(i.height)}px osifont`;
      context.textAlign = i.anchor === 'middle' ? 'center' : i.anchor;
      context.save();
      context.translate(i.x, i.y);
      context.rotate((-(i.turn ?? 0) * Math.PI) / 180);
      context.fillText(i.text, 0, 0);
      context.restore();
    } else paintImage(context, i, k, i.image.startsWith('data:') ? i.image : imageOf(i.image));
  }
}

function paintImage(context: CanvasRenderingContext2D, i: Extract<DisplayItem, { kind: 'image' }>, k: number, href: string | undefined): void {
  if (!href) return;
  const image = new Image();
  image.onload = () => {
    context.save();
    context.setTransform(k, 0, 0, k, 0, 0);
    // Under the lines, which are there already.
    context.globalCompositeOperation = 'destination-over';
    if (i.clip) context.clip(new Path2D(i.clip), 'evenodd');
    context.drawImage(image, i.x, i.y, i.width, i.height);
    context.restore();
  };
  image.src = href;
}
