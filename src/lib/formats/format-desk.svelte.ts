import { without } from '$core/base/without';
import { applyFormat, formatFrom, formatRecords, laidOn } from '$core/format/apply';
import { writeFormat } from '$core/format/file';
import type { SheetFormat } from '$core/format/record';
import { usualSheetFormat } from '$core/format/shipped';
import { paperByName } from '$core/sheet/paper';
import type { DisplayList, Drawn } from '$core/picture/display-list';
import type { SheetRecord } from '$core/document/records';
import { composeSheet } from '$elements/compose';
import { call } from '../shared/api';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';
import { readJsonFile } from '../shared/read-json-file';

export interface ListedFormat {
  readonly name: string;
  readonly words: string;
  readonly shipped: boolean;
  readonly version: number;
}

/** Do two say the same, whatever is written about them? */
const same = (a: SheetFormat, b: SheetFormat | undefined): boolean =>
  b !== undefined && JSON.stringify({ ...without(a, 'version'), words: '' }) === JSON.stringify({ ...without(b, 'version'), words: '' });

/** Sheet formats: those of the shelf, and those that this drawing has. */
export class FormatDesk {
  readonly drawing: Drawing;
  /** Kept on the server, and shipped. */
  kept = $state.raw<readonly ListedFormat[]>([]);
  chosen = $state('');
  private bodies = $state.raw<ReadonlyMap<string, SheetFormat>>(new Map());
  /** Sheets that are to lie on the chosen one. */
  sheets = $state.raw<ReadonlySet<string>>(new Set());
  /** They take its size too. */
  sized = $state(false);

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  /** Every format there is, by name: shipped and kept ones, then those that only this drawing has. */
  readonly listed = $derived.by((): readonly (ListedFormat & { readonly here: SheetRecord | undefined })[] => {
    const { formats } = this.drawing.scene;
    const here = (name: string) => formats.find((f) => f.name === name);
    const known = new Set(this.kept.map((k) => k.name));
    return [
      ...this.kept.map((k) => ({ ...k, here: here(k.name) })),
      ...formats
        .filter((f) => !known.has(f.name))
        .map((f) => ({ name: f.name, words: 'Of this drawing alone: it is not kept yet.', shipped: false, version: 0, here: f })),
    ];
  });
  readonly open = $derived(this.listed.find((f) => f.name === this.chosen));
  /** The chosen one as it stands here, else as it was kept. */
  readonly body = $derived.by((): SheetFormat | undefined => {
    const here = this.open?.here;
    return (here && formatFrom(this.drawing.scene, here.id, this.open?.words)) ?? this.bodies.get(this.chosen);
  });
  /** A newer version was kept than this drawing has, and nobody said that it stays. */
  readonly newer = $derived.by(() => {
    const open = this.open;
    const has = open?.here?.form?.version;
    if (!open || open.shipped || has === undefined || open.version <= has || open.here?.form?.stays === open.version) return undefined;
    return { has, kept: open.version };
  });
  /** It was changed here since it was kept, or never was. */
  readonly unkept = $derived.by(() => {
    const { open } = this;
    if (!open?.here || open.shipped) return false;
    const kept = this.bodies.get(this.chosen);
    return open.version === 0 || (kept !== undefined && !same(kept, this.body));
  });

  /** A sheet that lies on the chosen one, as it would look. */
  readonly picture = $derived.by((): DisplayList<Drawn> | undefined => {
    const { body } = this;
    if (!body) return undefined;
    const { scene } = this.drawing;
    const id = 'format:shown';
    const sheet: SheetRecord = {
      type: 'sheet',
      id: 'sheet:shown',
      order: 1e5,
      name: scene.sheets[0]?.name ?? '',
      size: body.size,
      landscape: body.landscape,
      format: id,
    };
    const records = [sheet, ...formatRecords(body, id, (base) => `${base}~shown`)];
    return composeSheet(scene.with({ ...scene.document, ...Object.fromEntries(records.map((r) => [r.id, r])) }), sheet.id);
  });

  async load(): Promise<void> {
    await this.saying(async () => {
      this.kept = await call<ListedFormat[]>('/api/formats');
      const { drawing } = this;
      const now = drawing.openFormat?.name ?? (drawing.sheetId ? drawing.scene.formatOf(drawing.sheetId).name : '');
      await this.choose(this.listed.some((f) => f.name === now) ? now : this.kept[0]!.name);
    });
  }

  async choose(name: string): Promise<void> {
    this.chosen = name;
    const { drawing } = this;
    const here = this.open?.here;
    const on = drawing.sheets.filter((s) => (here ? s.format === here.id : !s.format && drawing.scene.formatOf(s.id).name === name));
    this.sheets = new Set(on.length ? on.map((s) => s.id) : drawing.openFormat ? drawing.sheets.map((s) => s.id) : [drawing.sheetId]);
    if (this.listed.find((f) => f.name === name)?.version !== 0)
      await this.saying(async () => {
        const body = await call<SheetFormat>(`/api/formats/${encodeURIComponent(name)}`);
        this.bodies = new Map([...this.bodies, [name, body]]);
      });
  }

  toggle(sheet: string): void {
    const next = new Set(this.sheets);
    if (!next.delete(sheet)) next.add(sheet);
    this.sheets = next;
  }

  /** Puts the chosen sheets on the chosen format, and those that lay on it and are not chosen any more back on their standard's own. */
  apply(): boolean {
    const { drawing, open, body, sheets } = this;
    if (!open || !body) return false;
    const { scene } = drawing;
    const like = this.sized ? body : undefined;
    const left = open.here ? scene.sheets.filter((s) => s.format === open.here!.id && !sheets.has(s.id)).map((s) => s.id) : [];
    const usual = (id: string) => {
      const sheet = scene.one('sheet', id)!;
      return open.shipped && !open.here && usualSheetFormat(paperByName(sheet.size)!.standard, sheet.part !== undefined).name === open.name;
    };
    const own = [...sheets].filter((id) => !usual(id));
    const steps = [
      ...laidOn(scene, null, [...left, ...[...sheets].filter(usual)], like),
      ...(own.length === 0
        ? []
        : open.here
          ? laidOn(scene, open.here.id, own, like)
          : applyFormat(scene, { body, sized: this.sized }, own, (b) => drawing.freshId(b)).steps),
    ];
    drawing.edit(`Format “${open.name}”`, steps);
    notify('good', sheets.size === 1 ? `One sheet lies on “${open.name}”.` : `${sheets.size} sheets lie on “${open.name}”.`);
    return true;
  }

  /** Keeps the format of this drawing under its name; the drawing has that version then. */
  async keep(): Promise<void> {
    const { drawing, open, body } = this;
    if (!open?.here || !body) return;
    await this.saying(async () => {
      const words = this.bodies.get(open.name)?.words ?? `Kept from “${drawing.scene.drawing.title}”.`;
      const kept = await call<ListedFormat>('/api/formats', { method: 'POST', body: { ...body, words } });
      const canvas = drawing.scene.one('sheet', open.here!.id)!;
      drawing.edit('Keep the format', [{ op: 'put', record: { ...canvas, form: { ...canvas.form!, version: kept.version } } }]);
      notify('good', kept.version > 1 ? `“${kept.name}” was kept anew, as version ${kept.version}.` : `“${kept.name}” was kept: every job can use it.`);
      this.kept = await call<ListedFormat[]>('/api/formats');
      await this.choose(kept.name);
    });
  }

  /** The sheets follow the version that was kept last. */
  follow(): void {
    const { drawing, open } = this;
    const body = this.bodies.get(this.chosen);
    if (!open || !body) return;
    drawing.edit(`Version ${open.version} of “${open.name}”`, applyFormat(drawing.scene, { body }, [], (b) => drawing.freshId(b)).steps);
  }

  /** The sheets stay as they are, and the newer version is not spoken of again. */
  stay(): void {
    const { drawing, open } = this;
    if (!open?.here?.form) return;
    drawing.edit('The sheets stay', [{ op: 'put', record: { ...open.here, form: { ...open.here.form, stays: open.version } } }]);
  }

  async remove(): Promise<void> {
    await this.saying(async () => {
      await call(`/api/formats/${encodeURIComponent(this.chosen)}`, { method: 'DELETE' });
      await this.load();
    });
  }

  /** Takes a format from a file: it is kept under its name. */
  async readIn(file: File | undefined): Promise<void> {
    if (!file) return;
    await this.saying(async () => {
      const body = await readJsonFile(file, 'sheet format');
      const kept = await call<ListedFormat>('/api/formats', { method: 'POST', body });
      this.kept = await call<ListedFormat[]>('/api/formats');
      await this.choose(kept.name);
    });
  }

  /** The chosen one as a file. */
  giveOut(): void {
    if (!this.body) return;
    const url = URL.createObjectURL(new Blob([writeFormat(this.body)], { type: 'application/json' }));
    const link = document.createElement('a');
    [link.href, link.download] = [url, `${this.chosen}.json`];
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 1000);
  }

  private async saying(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }
}
