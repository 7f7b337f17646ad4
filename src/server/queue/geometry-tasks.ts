import type { MessagePort } from 'node:worker_threads';
import type { Assembly } from '../../core/assembly/assembly.ts';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import type { Cut } from '../../core/cut/keep-whole.ts';
import type { SheetFormat } from '../../core/format/record.ts';
import type { Recipe } from '../../core/recipe/record.ts';
import type { SlotReport } from '../../core/recipe/sheet-maker.ts';
import type { ChangeReport } from '../../core/revision/changes.ts';
import type { Decision } from '../../core/revision/match.ts';
import type { TakeOver, TakeOverOptions } from '../../core/revision/take-over.ts';
import type { DrawingDocument, ModelRecord } from '../../core/document/records.ts';
import type { Pull } from '../../core/explode/spread.ts';
import type { SheetFileOptions } from '../../core/picture/print.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { Standard } from '../../core/sheet/paper.ts';
import type { ExplodeRequest } from '../../core/explode/requests.ts';
import type { Step } from '../../core/document/steps.ts';
import type { IssueWords } from '../../elements/revisions/issue.ts';
import type { PackageFile } from '../../formats/package.ts';
import type { ViewSpec } from '../../core/views/view-spec.ts';
import type { StoredResult } from '../stored-result.ts';

export type Packed = readonly (readonly [string, Uint8Array])[];

/** What every computing task carries besides its own. */
export interface Computing {
  /** Geometry that the thread does not have is asked for here; progress of a view is told here. */
  readonly geometry: MessagePort;
  /** Not 0: stop. Shared memory, so that a busy thread sees it. */
  readonly stop: Int32Array<SharedArrayBuffer>;
}

export interface DraftTask {
  readonly type: 'draft';
  readonly assembly: Assembly;
  readonly standard: Standard;
  readonly sheet: string | null;
  readonly date: string;
  /** Which sheets are made; null: the usual first drawing. */
  readonly recipe: Recipe | null;
  /** The sheet format that new sheets lie on; null: the recipe's, or the standard's own. */
  readonly format?: SheetFormat | null;
  /** The drawing that they are added to; absent: a new one. */
  readonly onto?: DrawingDocument;
  /** Progress goes out, and so do the views wanted: other threads compute them side by side. */
  readonly port: MessagePort;
}

/** What the drafting thread says, and what it hears. */
export type DraftMessage =
  | { readonly progress: { readonly at: number; readonly total: number; readonly what: string } }
  | { readonly view: ViewSpec; readonly id: number }
  /** What stands before the exploded view is planned. */
  | { readonly first: Omit<DraftResult, 'pictures' | 'slots'> };
export type DraftReply = { readonly id: number; readonly packed: StoredResult } | { readonly id: number; readonly failed: true };

export interface DraftResult {
  readonly document: DrawingDocument;
  /** What became of the recipe's slots. */
  readonly slots: readonly SlotReport[];
  /** Results by key; not those of the first sheets, which were given before. */
  readonly results: readonly (readonly [string, StoredResult])[];
  /** Small line drawings by geometry key. */
  readonly pictures: readonly (readonly [string, string])[];
  /** What is measured on parts, packed, by geometry key; none if given before. */
  readonly features: Packed;
}

export interface ViewTask {
  readonly type: 'view';
  readonly assembly: Assembly;
  readonly spec: ViewSpec;
}

/** Reads a mesh file into an assembly. */
export interface ReadTask {
  readonly type: 'read';
  readonly file: ImportedFile;
  readonly beside: readonly ImportedFile[];
  readonly choices: MeshChoices;
  /** Counts go out. */
  readonly port: MessagePort;
  readonly stop: Int32Array<SharedArrayBuffer>;
}

export interface ReadResult {
  readonly assembly: Assembly;
  readonly geometries: readonly (readonly [string, Uint8Array])[];
  /** Keys of what was meshed, by the hash of the packed shape. */
  readonly shapes?: readonly (readonly [hash: string, key: string])[];
}

/** How large files are whose unit is not known. */
export interface MeasureTask {
  readonly type: 'measure';
  readonly files: readonly ImportedFile[];
}

export interface MeasureResult {
  /** In the file's unit, with z up and with y up. */
  readonly size: { readonly z: readonly number[]; readonly y: readonly number[] };
  readonly guess: MeshChoices;
}

/** What a section along a cut would keep whole, and how large the whole is in its frame. */
export interface SectionTask {
  readonly type: 'section';
  readonly assembly: Assembly;
  readonly frame: ViewFrame;
  readonly cut: Cut;
}

export interface SectionProposal {
  readonly keptWhole: readonly { readonly path: string; readonly why: string }[];
  /** minX minY maxX maxY in the frame, model mm. */
  readonly box: readonly [number, number, number, number];
  /** Where the middle of each component lies along the line of sight, mm. */
  readonly depths: readonly number[];
}

/** Ways to show an item that is seen nowhere or badly. */
export interface CuresTask {
  readonly type: 'cures';
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  readonly part: string;
}

/** Checks, plans or fits an exploded view. */
export interface ExplodeTask {
  readonly type: 'explode';
  readonly assembly: Assembly;
  readonly request: ExplodeRequest;
}

/** A file of a spread: the model with an animation, or a picture per step. */
export interface SpreadFileTask {
  readonly type: 'spread-file';
  readonly kind: 'apart.glb' | 'apart.html' | 'steps.zip';
  readonly title: { readonly title: string; readonly number: string };
  readonly viewerFile: string;
  readonly assembly: Assembly;
  readonly pulls: readonly Pull[];
  readonly frame: ViewFrame;
}

/** The flat pattern of a bent part, or the wrap of a round tube, 1:1. */
export interface FlatFileTask {
  readonly type: 'flat-file';
  readonly kind: 'svg' | 'pdf';
  readonly assembly: Assembly;
  /** Id of the part. */
  readonly part: string;
  readonly name: string;
  /** That someone chose for it; absent: by DIN 6935. */
  readonly k?: number | undefined;
  readonly fontFile: string;
}

/** The model read in another unit. */
export interface RescaleTask {
  readonly type: 'rescale';
  readonly assembly: Assembly;
  readonly unitMm: number;
}

/** Compares a newer model with the one a drawing shows, and plans its taking over. */
export interface CompareTask {
  readonly type: 'compare';
  readonly before: Assembly;
  readonly after: Assembly;
  readonly document: DrawingDocument;
  readonly decisions: readonly Decision[];
  readonly model: ModelRecord;
  readonly options: TakeOverOptions;
}

export interface Comparison extends TakeOver {
  readonly report: ChangeReport;
  /** Pairs that the drafter has to decide, by part id. */
  readonly doubtful: readonly {
    readonly before: string;
    readonly after: string;
    readonly names: readonly [string, string];
    readonly keys: readonly [string, string];
    readonly why: string;
    /** Until decided they count as the same. */
    readonly assumed: boolean;
  }[];
}

/** Small line drawings of parts by geometry key. */
export interface PicturesTask {
  readonly type: 'pictures';
  readonly assembly: Assembly;
}

/** What is measured on parts, packed, by geometry key. */
export interface FeaturesTask {
  readonly type: 'features';
  readonly assembly: Assembly;
  /** Flat patterns with these Ks besides, by geometry key. */
  readonly ks?: readonly (readonly [string, number])[];
}

/** A small line drawing of some components as they stand together. */
export interface GroupPictureTask {
  readonly type: 'group-picture';
  readonly assembly: Assembly;
  readonly components: readonly number[];
}

/** A CSV or XLSX file as rows of texts. */
export interface TableTask {
  readonly type: 'table';
  readonly file: ImportedFile;
}

/** A drawing with everything that its pictures are made of. */
export interface PackedDrawing {
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  /** Stored results by view id. */
  readonly results: Packed;
  /** What is measured on parts, by geometry key. */
  readonly features: Packed;
}

/** What a package may hold: `sheets` are PDFs of single sheets, `half` is the drawing for half-size print, `apart` a page that plays it apart. */
export const ISSUE_OUTPUTS = ['pdf', 'sheets', 'half', 'svg', 'png', 'list', 'findings', 'json', 'glb', 'steps', 'apart', 'guide'] as const;
export type IssueOutput = (typeof ISSUE_OUTPUTS)[number];

/** The files of an issue. */
export interface IssueTask extends PackedDrawing {
  readonly type: 'issue';
  /** Which files are wanted. */
  readonly outputs: readonly IssueOutput[];
  /** Of sheets as files, and pixels per inch of pictures. */
  readonly sheets: SheetFileOptions;
  readonly dpi: number;
  /** Of files, with `{what}` in it. */
  readonly names: string;
  /** What is said of it, and which issue of the job it is. */
  readonly words: IssueWords;
  readonly place: number;
  /** What is for review only says so across every page. */
  readonly kind: 'issued' | 'review';
  readonly fontFile: string;
  readonly pageLetterFiles: readonly { readonly weight: 400 | 600; readonly file: string }[];
  readonly viewerFile: string;
}

export interface IssueMade {
  /** What the drawing becomes by being issued. */
  readonly steps: readonly Step[];
  readonly files: readonly PackageFile[];
}

/** What the guide of a drawing says. */
export interface GuideTask {
  readonly type: 'guide';
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
}

/** What two states of a drawing differ in. */
export interface DifferenceTask {
  readonly type: 'difference';
  readonly before: PackedDrawing;
  readonly after: PackedDrawing;
}

export interface ExportTask {
  readonly type: 'export';
  readonly kind:
    'pdf' | 'svg' | 'png' | 'findings.xlsx' | 'parts-list.csv' | 'parts-list.xlsx' | 'properties.csv' | 'properties.xlsx' | 'items.json' | 'findings.json';
  /** Of sheets. */
  readonly sheets?: SheetFileOptions;
  readonly dpi?: number;
  /** Which parts list; absent: the first. */
  readonly list?: string;
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  /** Stored results by view id. */
  readonly results: Packed;
  /** What is measured on parts, by geometry key. */
  readonly features: Packed;
  readonly fontFile: string;
}

export type GeometryTask =
  | (DraftTask & Computing)
  | (ViewTask & Computing)
  | (SectionTask & Computing)
  | (ExplodeTask & Computing)
  | (CuresTask & Computing)
  | (SpreadFileTask & Computing)
  | (FlatFileTask & Computing)
  | ReadTask
  | MeasureTask
  | TableTask
  | (CompareTask & Computing)
  | (RescaleTask & Computing)
  | (PicturesTask & Computing)
  | (FeaturesTask & Computing)
  | (GroupPictureTask & Computing)
  | (IssueTask & Computing)
  | (GuideTask & Computing)
  | DifferenceTask
  | ExportTask;
