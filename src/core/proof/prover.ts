import type { Assembly } from '../assembly/assembly.ts';
import type { DrawingDocument, DrawingDocumentRecord } from '../document/records.ts';
import type { PartFeatures } from '../features/part-features.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { inputsOf } from '../../elements/compose.ts';
import { Scene, type SpreadHits } from '../../elements/scene.ts';
import { coverageCells, itemsAbout, type CoverageCell } from './coverage.ts';
import type { Finding } from './finding.ts';
import type { Speller } from './rules/spelling.ts';
import { judged, sheetFindings, wholeFindings } from './findings.ts';

/** A change of what is proved: records that are other ones now, and those that are gone. */
export interface ProofChange {
  readonly put: readonly DrawingDocumentRecord[];
  readonly drop: readonly string[];
}

export interface Proved {
  readonly findings: readonly (Finding & { readonly items: readonly number[] })[];
  readonly cells: readonly CoverageCell[];
  /** Views that are not here yet: what they show was not checked. */
  readonly open: number;
}

/** A remark from the bench that waits for an answer. */
export interface OpenRemark {
  readonly id: string;
  readonly revision: string;
  readonly step: number;
  readonly text: string;
  readonly who: string;
  /** Id of the part that it is about. */
  readonly part?: string | null | undefined;
}

const remarkFindings = (remarks: readonly OpenRemark[]): Finding[] =>
  remarks.map((r) => ({
    code: 'BENCH_REMARK',
    severity: 'should',
    sheet: null,
    about: [`remark:${r.id}`, ...(r.part ? [r.part] : [])],
    text: `From the bench${r.who ? `, ${r.who}` : ''}, on step ${r.step} of ${r.revision}: ${r.text}`,
  }));

export type SpreadHit = NonNullable<ReturnType<SpreadHits['get']>>[number];

/** What is measured on parts, by geometry key. */
interface FeaturesByKey {
  get(key: string): PartFeatures | undefined;
}

/** Proves a drawing again and again while it changes: sheets on which nothing changed are not gone through again. */
export class Prover {
  private document: DrawingDocument = {};
  private readonly results = new Map<string, ViewResult>();
  private features: FeaturesByKey | undefined;
  private speller: Speller | undefined;
  private hits: ReadonlyMap<string, readonly SpreadHit[]> = new Map();
  private remarks: readonly OpenRemark[] = [];
  private readonly sheets = new Map<string, { readonly inputs: readonly unknown[]; readonly findings: readonly Finding[] }>();
  private readonly assembly: Assembly;

  constructor(assembly: Assembly) {
    this.assembly = assembly;
  }

  change({ put, drop }: ProofChange): void {
    const gone = new Set(drop);
    const kept = Object.entries(this.document).filter(([id]) => !gone.has(id));
    this.document = Object.fromEntries([...kept, ...put.map((r) => [r.id, r] as const)]);
  }

  setResult(view: string, result: ViewResult): void {
    this.results.set(view, result);
  }

  setFeatures(features: FeaturesByKey): void {
    this.features = features;
  }

  /** What workers said of what was issued, and nobody has answered. */
  setRemarks(remarks: readonly OpenRemark[]): void {
    this.remarks = remarks;
  }

  /** What the pulls of a spread pass through, as it stands now. */
  setHits(spread: string, hits: readonly SpreadHit[]): void {
    this.hits = new Map([...this.hits, [spread, hits]]);
  }

  setSpeller(speller: Speller): void {
    this.speller = speller;
  }

  /** What was told so far may be of no drawing yet. */
  get ready(): boolean {
    return this.document['drawing'] !== undefined;
  }

  prove(): Proved {
    const scene = new Scene({
      document: this.document,
      assembly: this.assembly,
      results: this.results,
      ...(this.features ? { features: this.features } : {}),
      speller: this.speller,
      hits: this.hits,
    });
    const findings = [...judged(remarkFindings(this.remarks), scene), ...wholeFindings(scene), ...scene.sheets.flatMap((s) => this.onSheet(scene, s.id))];
    return {
      findings: findings.map((f) => ({ ...f, items: itemsAbout(scene, f.about) })),
      cells: coverageCells(scene),
      open: scene.all('view').filter((v) => !v.off && !scene.result(v.id)).length,
    };
  }

  private onSheet(scene: Scene, sheet: string): readonly Finding[] {
    // What may be found on a sheet depends on what it shows, and on how this job is proved.
    const inputs = [...inputsOf(scene, sheet), scene.one('proof', 'proof'), this.features, ...scene.all('view'), ...scene.all('spread')];
    const known = this.sheets.get(sheet);
    if (known && known.inputs.length === inputs.length && inputs.every((v, i) => v === known.inputs[i])) return known.findings;
    const findings = sheetFindings(scene, sheet);
    this.sheets.set(sheet, { inputs, findings });
    return findings;
  }
}
