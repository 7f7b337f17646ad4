import type { ViewResult } from '$core/views/compute-view';

const urls = new WeakMap<ViewResult, string>();

/** The shaded picture of a view as a data URL; made once per result. Browser only. */
export function shadingUrl(result: ViewResult | undefined): string | undefined {
  if (!result?.shading) return undefined;
  let url = urls.get(result);
  if (!url) {
    const { window: w, rgba } = result.shading;
    const canvas = document.createElement('canvas');
    canvas.width = w.width;
    canvas.height = w.height;
    const context = canvas.getContext('2d');
    if (!context) return undefined;
    context.putImageData(new ImageData(new Uint8ClampedArray(rgba), w.width, w.height), 0, 0);
    url = canvas.toDataURL();
    urls.set(result, url);
  }
  return url;
}
