import { without } from '$core/base/without';
import { CATALOG } from '$core/proof/catalog';
import { findingKey, type Severity } from '$core/proof/finding';
import { fixOf } from '$core/proof/findings';
import type { Proved } from '$core/proof/prover';
import type { RecordOf } from '$core/document/records';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';

export type ProvedFinding = Proved['findings'][number];
type ProofRecord = RecordOf<'proof'>;

const ORDER: Readonly<Record<Severity, number>> = { must: 0, should: 1, look: 2 };
const EMPTY: ProofRecord = { type: 'proof', id: 'proof', off: [], severity: {}, accepted: [] };

/** What is done with findings: gone through, put right, accepted with a reason, points switched and weighted. */
export class Desk {
  /** Key of the finding that is looked at. */
  at = $state<string | undefined>(undefined);
  /** A reason is being written for it. */
  accepting = $state(false);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  readonly record: ProofRecord = $derived.by(() => this.drawing.scene.one('proof', 'proof') ?? EMPTY);
  /** What is open, the worst first, in the order of a checker's list. */
  readonly open: readonly ProvedFinding[] = $derived.by(() => {
    const place = Object.keys(CATALOG);
    const list = (this.drawing.proof.proved?.findings ?? []).filter((f) => !f.accepted);
    return [...list].sort((a, b) => ORDER[a.severity] - ORDER[b.severity] || place.indexOf(a.code) - place.indexOf(b.code));
  });
  readonly accepted: readonly ProvedFinding[] = $derived.by(() => (this.drawing.proof.proved?.findings ?? []).filter((f) => f.accepted));
  readonly current: ProvedFinding | undefined = $derived.by(() => this.open.find((f) => findingKey(f) === this.at) ?? this.open[0]);
  /** Points of the list on which nothing is to be found. */
  readonly holding: number = $derived.by(() => {
    const found = new Set(this.open.map((f) => f.code));
    return Object.keys(CATALOG).filter((c) => !found.has(c as never) && !this.record.off.includes(c)).length;
  });

  /** To the next finding, or the one before. */
  walk(by: 1 | -1): void {
    const i = this.current ? this.open.indexOf(this.current) : -1;
    const next = this.open[(i + by + this.open.length) % Math.max(1, this.open.length)];
    if (next) this.look(next);
  }

  look(f: ProvedFinding): void {
    this.at = findingKey(f);
    this.accepting = false;
  }

  fix(f: ProvedFinding): void {
    const { drawing } = this;
    const steps = fixOf(f, drawing.scene, (type) => drawing.freshId(type));
    const next = this.open[this.open.indexOf(f) + 1];
    if (steps.length) {
      drawing.edit(f.fix ?? 'Put right', steps);
      if (next) this.look(next);
    } else notify('trouble', 'There is no room to put it right by itself: do it on the sheet.');
  }

  accept(f: ProvedFinding, reason: string): void {
    const said = reason.trim().slice(0, 500);
    if (!said) {
      notify('trouble', 'Write why it may stay so.');
      return;
    }
    const accepted = [...this.record.accepted.filter((a) => a.key !== findingKey(f)), { key: findingKey(f), reason: said, when: new Date().toISOString() }];
    this.put('Accept a finding', { ...this.record, accepted });
    this.accepting = false;
  }

  reopen(f: ProvedFinding): void {
    this.put('Reopen a finding', { ...this.record, accepted: this.record.accepted.filter((a) => a.key !== findingKey(f)) });
  }

  /** Switches a point off, or weighs it anew; its usual weight is not kept. */
  weigh(code: string, as: Severity | 'off' | 'usual'): void {
    const off = this.record.off.filter((c) => c !== code);
    const severity = without(this.record.severity, code);
    this.put('Points of the proof', {
      ...this.record,
      off: as === 'off' ? [...off, code] : off,
      severity: as === 'off' || as === 'usual' ? severity : { ...severity, [code]: as },
    });
  }

  private put(label: string, record: ProofRecord): void {
    this.drawing.edit(label, [{ op: 'put', record }]);
  }
}
