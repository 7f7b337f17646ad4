import type { ViewResult } from '$core/views/compute-view';

const urls = new WeakMap<ViewResult, string>();

/** The shaded picture of a view as a URL; made once per result. Browser only. */
export function shadingUrl(result: ViewResult | undefined): string | undefined {
  if (!result?.shading) return undefined;
  let url = urls.get(result);
  if (!url) {
    url = URL.createObjectURL(new Blob([result.shading.png as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
    urls.set(result, url);
  }
  return url;
}
