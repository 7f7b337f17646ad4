import { deflateSync } from 'node:zlib';
import type { Assembly } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { escapeXml } from '../core/picture/svg-items.ts';
import { viewerModel } from '../core/guide/viewer-model.ts';

/** What a self-contained page needs to show a model in 3D. */
export interface PageModel {
  /** The bundled viewer, JavaScript. */
  readonly viewer: string;
  readonly assembly: Assembly;
  readonly geometries: ReadonlyMap<string, PartGeometry>;
}

/** The beginning of a page that stands alone, up to its body. */
export const pageHead = (language: string, title: string, style: string): string => `<!doctype html>
<html lang="${language}">
<head>
<meta charset="utf-8">
<link rel="icon" href="data:,">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeXml(title)}</title>
<style>${style}</style>
</head>
`;

/** JSON that may stand in a script element. */
export const jsonInPage = (data: unknown): string => JSON.stringify(data).replaceAll('<', '\\u003c');

/** Script elements with the model and the viewer: `viewerModel()` makes a viewer in an element, once it is wanted. */
export function modelInPage({ viewer, assembly, geometries }: PageModel): string {
  const { model, bytes } = viewerModel(assembly, geometries);
  const packed = deflateSync(bytes, { level: 9 }).toString('base64');
  return `<script type="application/json" id="model">${jsonInPage(model)}</script>
<script type="text/plain" id="model-bytes">${packed}</script>
<script>${viewer.replaceAll('</script', '<\\/script')}</script>
<script>const viewerModel = (host) => quarryViewer.start(host, JSON.parse(document.getElementById('model').textContent), document.getElementById('model-bytes').textContent);</script>`;
}
