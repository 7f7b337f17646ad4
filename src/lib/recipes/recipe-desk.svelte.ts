import { RECIPE_FORMAT, type Recipe } from '$core/recipe/record';
import type { PreviewSheet } from '$core/recipe/preview';
import type { SlotReport } from '$core/recipe/sheet-maker';
import { call } from '../shared/api';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';
import { readJsonFile } from '../shared/read-json-file';
import { streamed } from '../shared/streamed';

export interface ListedRecipe {
  readonly name: string;
  readonly words: string;
  readonly shipped: boolean;
  readonly version: number;
}

/** Recipes and what one of them would make of a job. */
export class RecipeDesk {
  readonly drawing: Drawing;
  recipes = $state.raw<readonly ListedRecipe[]>([]);
  chosen = $state('');
  preview = $state.raw<{ readonly sheets: readonly PreviewSheet[]; readonly leftOut: readonly string[] } | undefined>(undefined);
  /** What became of the slots of the last one. */
  slots = $state.raw<readonly SlotReport[]>([]);
  /** The sheet that is drawn now. */
  making = $state<string | undefined>(undefined);
  name = $state('');
  /** The recipe that is being changed, as it stands. */
  editing = $state.raw<Recipe | undefined>(undefined);
  private stop: AbortController | undefined;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  async load(): Promise<void> {
    await this.saying(async () => {
      this.recipes = await call<ListedRecipe[]>('/api/recipes');
      await this.choose(this.recipes.some((r) => r.name === this.chosen) ? this.chosen : (this.recipes[1]?.name ?? this.recipes[0]!.name));
    });
  }

  async choose(name: string): Promise<void> {
    this.editing = undefined;
    this.chosen = name;
    this.preview = undefined;
    await this.saying(async () => {
      const preview = await call<NonNullable<typeof this.preview>>(`/api/jobs/${this.drawing.id}/recipe?recipe=${encodeURIComponent(name)}`);
      if (this.chosen === name) this.preview = preview;
    });
  }

  /** Makes the sheets, one edit; the page catches up by itself. @returns whether any came */
  async make(): Promise<void> {
    const { drawing } = this;
    this.stop = new AbortController();
    this.making = '';
    try {
      const done = await streamed<{ sheets: number; slots: readonly SlotReport[] }, { what: string }>(
        `/api/jobs/${drawing.id}/recipe`,
        { recipe: this.chosen, version: drawing.version },
        this.stop.signal,
        (m) => (this.making = m.what),
      );
      this.slots = done.slots;
      const left = done.slots.filter((s) => !s.filled);
      const came = done.sheets === 0 ? 'No sheet came: all of them stand already.' : done.sheets === 1 ? 'One sheet came.' : `${done.sheets} sheets came.`;
      notify('good', left.length ? `${came} ${left.length === 1 ? 'One slot was' : `${left.length} slots were`} left out: the list says why.` : came);
      await this.choose(this.chosen);
    } catch (e) {
      if (!this.stop.signal.aborted) notify('trouble', (e as Error).message);
    } finally {
      this.making = undefined;
    }
  }

  cancel(): void {
    this.stop?.abort();
  }

  /** Opens the chosen recipe to be changed; of one that comes with the application a copy. */
  async change(): Promise<void> {
    await this.saying(async () => {
      const body = await call<Recipe>(`/api/recipes/${encodeURIComponent(this.chosen)}`);
      const shipped = this.recipes.find((r) => r.name === this.chosen)?.shipped;
      this.editing = shipped ? { ...body, name: this.freeName(body.name) } : body;
    });
  }

  /** One from nothing: a sheet for each made part. */
  begin(): void {
    this.editing = {
      format: RECIPE_FORMAT,
      name: this.freeName('New recipe'),
      words: '',
      sheets: [{ name: 'Part: {subject}', per: 'made part', slots: [{ want: 'part views', name: 'The views it needs', dimensions: true, centrelines: true }] }],
    };
  }

  /** A name that no recipe has. */
  private freeName(name: string): string {
    const taken = new Set(this.recipes.map((r) => r.name));
    for (let n = 1; ; n++) {
      const free = n === 1 ? `${name}, own` : `${name}, own ${n}`;
      if (!taken.has(free)) return free;
    }
  }

  /** Keeps what was changed; the preview shows what it would make of this job. */
  async keepChanged(): Promise<void> {
    const { editing } = this;
    if (!editing) return;
    await this.saying(async () => {
      const kept = await call<ListedRecipe>('/api/recipes', { method: 'POST', body: editing });
      this.editing = undefined;
      this.chosen = kept.name;
      notify('good', kept.version > 1 ? `“${kept.name}” was kept anew, as version ${kept.version}.` : `“${kept.name}” was kept.`);
      await this.load();
    });
  }

  /** Keeps the sheets of this drawing under a name. */
  async keep(): Promise<void> {
    const name = this.name.trim();
    await this.saying(async () => {
      const kept = await call<ListedRecipe>(`/api/jobs/${this.drawing.id}/recipe/keep`, {
        method: 'POST',
        body: { name, words: `Kept from “${this.drawing.scene.drawing.title}”.` },
      });
      this.name = '';
      this.chosen = kept.name;
      notify(
        'good',
        kept.version > 1
          ? `“${kept.name}” was kept anew, as version ${kept.version}.`
          : `“${kept.name}” was kept. It can be chosen when an assembly is dropped.`,
      );
      await this.load();
    });
  }

  async remove(): Promise<void> {
    await this.saying(async () => {
      await call(`/api/recipes/${encodeURIComponent(this.chosen)}`, { method: 'DELETE' });
      await this.load();
    });
  }

  /** Takes a recipe from a file. */
  async readIn(file: File | undefined): Promise<void> {
    if (!file) return;
    await this.saying(async () => {
      const body = await readJsonFile(file, 'recipe');
      const kept = await call<ListedRecipe>('/api/recipes', { method: 'POST', body });
      this.chosen = kept.name;
      await this.load();
    });
  }

  private async saying(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }
}
