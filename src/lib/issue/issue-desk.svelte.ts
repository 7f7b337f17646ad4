import { goto } from '$app/navigation';
import { nextRevision } from '$elements/revisions/issue';
import type { Difference } from '$core/revision/compare-drawings';
import { ApiFailure, call } from '$lib/shared/api';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';

/** What was issued, as the page is told: moments are texts. */
export interface Issue {
  readonly id: string;
  readonly revision: string;
  readonly kind: 'issued' | 'review';
  readonly date: string;
  readonly words: readonly string[];
  readonly sha256: string;
  readonly files: readonly { readonly name: string; readonly bytes: number }[];
}
export interface BenchRemark {
  readonly id: string;
  readonly revision: string;
  readonly step: number;
  readonly text: string;
  readonly part: string | null;
  readonly photo: boolean;
  readonly serial: string;
  readonly who: string;
  readonly saidAt: string;
  readonly answer: string | null;
}
export interface BenchUnit {
  readonly serial: string;
  readonly revision: string;
  readonly steps: number;
  readonly total: number;
  readonly last: string;
  readonly who: string;
}
export interface Moment {
  readonly version: number;
  readonly kind: string;
  readonly label: string;
  readonly createdAt: string;
}

export const OUTPUTS = [
  ['pdf', 'PDF, all sheets'],
  ['sheets', 'PDF, each sheet'],
  ['half', 'PDF for half-size print'],
  ['list', 'Parts lists, XLSX and CSV'],
  ['guide', 'Build guide, page and PDF'],
  ['svg', 'SVG, one per sheet'],
  ['png', 'Pictures of the sheets, PNG'],
  ['glb', 'Exploded model, GLB'],
  ['steps', 'Picture of each step, SVG'],
  ['apart', 'Page that plays it apart, HTML'],
  ['json', 'Drawing and model, JSON'],
  ['findings', 'Findings and coverage, XLSX'],
] as const;

const REMEMBERED = 'quarry issue';
interface Remembered {
  readonly outputs: readonly string[];
  readonly names: string;
  readonly grey: boolean;
  readonly layers: boolean;
  readonly dpi: number;
}

/** What is done on the Issue stage: what was issued, what changed since, and the next issue. */
export class IssueDesk {
  issues = $state.raw<readonly Issue[]>([]);
  history = $state.raw<readonly Moment[]>([]);
  remarks = $state.raw<readonly BenchRemark[]>([]);
  units = $state.raw<readonly BenchUnit[]>([]);
  loaded = $state(false);
  /** What is compared: `now`, an issue, or `v` and a version. */
  from = $state('');
  to = $state('now');
  difference = $state.raw<Difference | undefined>(undefined);
  comparing = $state(false);
  sheet = $state(0);
  /** Seals that were checked, by issue. */
  verified = $state.raw<ReadonlyMap<string, boolean>>(new Map());

  revision = $state('');
  date = $state(new Date().toISOString().slice(0, 10));
  drawn = $state('');
  checked = $state('');
  approved = $state('');
  words = $state('');
  outputs = $state<string[]>(['pdf', 'list', 'guide', 'json']);
  names = $state('{number}-{revision}-{what}');
  grey = $state(false);
  layers = $state(false);
  dpi = $state(200);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
    try {
      const kept = JSON.parse(localStorage.getItem(REMEMBERED) ?? 'null') as Partial<Remembered> | null;
      if (kept?.outputs?.length) this.outputs = [...kept.outputs];
      if (kept?.names) this.names = kept.names;
      [this.grey, this.layers, this.dpi] = [kept?.grey ?? false, kept?.layers ?? false, kept?.dpi ?? 200];
    } catch {
      // Another program's words: the usual choice stands.
    }
  }

  async load(): Promise<void> {
    const { id } = this.drawing;
    const [issues, history, bench] = await Promise.all([
      call<Issue[]>(`/api/jobs/${id}/issues`),
      call<Moment[]>(`/api/jobs/${id}/history`),
      call<{ remarks: BenchRemark[]; units: BenchUnit[] }>(`/api/jobs/${id}/remarks`),
    ]);
    [this.issues, this.history, this.remarks, this.units] = [issues, history, bench.remarks, bench.units];
    const [last] = issues;
    const d = this.drawing.scene.drawing;
    if (!this.loaded) {
      this.revision = last ? nextRevision(issues.find((i) => i.kind === 'issued')?.revision ?? last.revision) : d.revision || 'A';
      [this.drawn, this.checked, this.approved] = [d.drawnBy, d.checkedBy, d.approvedBy];
    }
    this.loaded = true;
    this.from = last?.id ?? (this.began ? this.began : '');
    await this.compare();
  }

  /** The earliest moment that is listed: before its edit. */
  get began(): string | undefined {
    const first = this.history.at(-1);
    return first && `v${first.version - 1}`;
  }

  /** What the moments that are chosen differ in. */
  async compare(): Promise<void> {
    if (!this.from) return;
    this.comparing = true;
    try {
      const d = await call<Difference>(`/api/jobs/${this.drawing.id}/compare?from=${this.from}&to=${this.to}`);
      this.difference = d;
      const first = d.sheets.findIndex((s) => s.kind !== 'same');
      this.sheet = Math.max(0, first);
      if (this.to === 'now') this.words = this.issues.length ? d.words.join('\n') : 'First issue';
    } catch (e) {
      this.difference = undefined;
      notify('trouble', e instanceof ApiFailure ? e.message : 'The drawings could not be compared.');
    } finally {
      this.comparing = false;
    }
  }

  /** Puts clouds around what changed on every sheet, with the letter of the revision. */
  putClouds(): void {
    const { drawing, difference, revision } = this;
    const records = (difference?.sheets ?? []).flatMap((s) =>
      s.kind !== 'changed'
        ? []
        : s.changes
            .filter((c) => c.role !== 'title' && c.role !== 'frame' && c.role !== 'cloud' && c.role !== 'revisions' && c.kind !== 'removed')
            .flatMap((c) => c.boxes)
            .filter((b) => b.width > 0 || b.height > 0)
            .map((b) => ({
              type: 'cloud' as const,
              id: drawing.freshId('cloud'),
              sheet: s.id,
              at: [b.x - 4, b.y - 4] as const,
              to: [b.x + b.width + 4, b.y + b.height + 4] as const,
              revision,
            })),
    );
    if (!records.length) {
      notify('trouble', 'Nothing changed that a cloud could go around.');
      return;
    }
    drawing.edit(
      `${records.length} revision clouds`,
      records.map((record) => ({ op: 'put', record })),
    );
    notify('good', `${records.length === 1 ? 'One cloud' : `${records.length} clouds`} put around what changed. They can be moved or removed on the sheets.`);
  }

  /** Has the issue made; it goes on when the page is left. @param kind for review it is marked across every page, and the letter stays free */
  async issue(kind: 'issued' | 'review'): Promise<void> {
    const { drawing, outputs, names, grey, layers, dpi } = this;
    try {
      localStorage.setItem(REMEMBERED, JSON.stringify({ outputs, names, grey, layers, dpi } satisfies Remembered));
      await drawing.issue({
        version: drawing.version,
        kind,
        revision: this.revision.trim(),
        date: this.date,
        drawn: this.drawn,
        checked: this.checked,
        approved: this.approved,
        words: this.words
          .split('\n')
          .map((w) => w.trim())
          .filter(Boolean),
        outputs,
        names,
        grey,
        layers,
        dpi,
      });
    } catch (e) {
      notify('trouble', e instanceof ApiFailure ? e.message : 'The issue could not be made.');
    }
  }

  /** An issue was made: it is listed, and the next letter is proposed. */
  async made(kind: 'issued' | 'review'): Promise<void> {
    if (kind === 'issued') this.revision = nextRevision(this.revision);
    await this.load();
  }

  async verify(i: Issue): Promise<void> {
    try {
      await call(`/api/jobs/${this.drawing.id}/issues/${i.id}/verify`);
      this.verified = new Map([...this.verified, [i.id, true]]);
    } catch (e) {
      this.verified = new Map([...this.verified, [i.id, false]]);
      notify('trouble', e instanceof ApiFailure ? e.message : 'The seal could not be checked.');
    }
  }

  async takeBack(i: Issue): Promise<void> {
    try {
      await call(`/api/jobs/${this.drawing.id}/issues/${i.id}/back`, { method: 'POST', body: { version: this.drawing.version } });
      notify('good', `The drawing is again as ${i.revision} was issued. Undo brings back what was.`);
    } catch (e) {
      notify('trouble', e instanceof ApiFailure ? e.message : 'The issue could not be taken back.');
    }
  }

  /** A job of its own begins with the drawing of an issue. */
  async branch(i: Issue): Promise<void> {
    try {
      const { id } = await call<{ id: string }>(`/api/jobs/${this.drawing.id}/issues/${i.id}/branch`, { method: 'POST', body: {} });
      await goto(`/jobs/${id}/sheets`);
    } catch (e) {
      notify('trouble', e instanceof ApiFailure ? e.message : 'No job could be begun with it.');
    }
  }

  async answer(r: BenchRemark, text: string): Promise<void> {
    if (!text.trim()) return;
    await call(`/api/jobs/${this.drawing.id}/remarks/${r.id}`, { method: 'POST', body: { answer: text.trim() } });
    await this.load();
  }
}
