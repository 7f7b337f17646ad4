import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { planSpread } from '../core/explode/plan.ts';
import { guideOf } from '../core/guide/guide.ts';
import { PICTURE_ROOM } from '../core/guide/pages.ts';
import { partArts } from '../core/guide/part-art.ts';
import { isLanguage, LANGUAGES } from '../core/guide/phrases.ts';
import { StepPainter } from '../core/guide/picture.ts';
import { buildOrder } from '../core/guide/steps.ts';
import { itemsOf } from '../core/ledger/items.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { guideAsPdf } from '../formats/guide-files.ts';
import { writeGuideHtml } from '../formats/guide-html.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

/** The build guide of a model as a page and as PDF: a planned spread turned round. */
export async function guide(args: Arguments): Promise<unknown> {
  const out = args.options.get('out');
  if (!out) throw new QuarryError('BAD_USAGE', { text: 'guide needs --out DIR.' });
  const language = args.options.get('language') ?? 'en';
  if (!isLanguage(language)) throw new QuarryError('BAD_USAGE', { text: `--language takes one of ${LANGUAGES.join(', ')}.` });
  const m = await loadModel(args.files, args);
  const bodies = sceneOf(m.assembly, m.geometries);
  const { pulls } = planSpread(m.assembly, bodies, { frame: namedFrame('isometric') });
  const order = buildOrder(m.assembly, bodies, pulls);
  const paths = componentsOf(m.assembly).map((c) => c.path);
  const made = guideOf(paths, itemsOf(m.assembly, {}), order, { language });
  const painter = new StepPainter(m.assembly, m.geometries, order);
  const pictures = new Map(made.steps.map((s) => [s.number, painter.paint(s, PICTURE_ROOM)]));
  const title = { title: m.assembly.name, number: '', revision: '', date: new Date().toISOString().slice(0, 10) };
  const parts = partArts(m.assembly, m.geometries);
  const viewer = await readFile(join(process.cwd(), 'build/node/viewer.js'), 'utf8');
  const model = { viewer, assembly: m.assembly, geometries: m.geometries };
  const font = new Uint8Array(await readFile(join(process.cwd(), 'static/fonts/osifont.ttf')));
  const letters = await Promise.all(
    ([400, 600] as const).map(async (weight) => ({
      weight,
      data: new Uint8Array(await readFile(join(process.cwd(), `node_modules/@fontsource/source-sans-3/files/source-sans-3-latin-${weight}-normal.woff2`))),
    })),
  );
  await mkdir(out, { recursive: true });
  await writeFile(join(out, 'guide.html'), writeGuideHtml(made, { title, pictures, font, letters, model, parts }));
  await writeFile(join(out, 'guide.pdf'), await guideAsPdf(made, title, pictures, font, parts));
  return {
    steps: made.steps.map((s) => ({
      number: s.number,
      kind: s.kind,
      of: s.unitName,
      adds: s.adds.map((c) => paths[c]!),
      ...(s.joins.length ? { joins: s.joins.map((c) => paths[c]!) } : {}),
      items: s.kit.map((k) => ({ item: k.item.number, quantity: k.quantity })),
      text: s.text,
    })),
    orderChecked: made.checked,
  };
}
