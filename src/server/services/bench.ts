import { and, asc, eq, isNull } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import { getDatabase } from '../database/client.ts';
import { benchAnswer, issue } from '../database/schema.ts';
import { tell } from '../events.ts';
import { guidePage } from './issues.ts';

export interface BenchAnswer {
  readonly id: string;
  readonly kind: 'tick' | 'check' | 'remark';
  readonly step: number;
  readonly point?: number | undefined;
  readonly done?: boolean | undefined;
  readonly text?: string | undefined;
  /** Id of the part that a remark is about. */
  readonly part?: string | undefined;
  /** JPEG. */
  readonly photo?: Uint8Array | undefined;
  readonly serial: string;
  readonly who: string;
  readonly when: Date;
}

/** Keeps what a worker ticked or remarked; the same answer sent again is kept once. @throws QuarryError NOT_FOUND */
export async function keepAnswer(issueId: string, a: BenchAnswer): Promise<void> {
  const [row] = await getDatabase().select({ job: issue.jobId }).from(issue).where(eq(issue.id, issueId));
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The issue' });
  await getDatabase()
    .insert(benchAnswer)
    .values({
      id: a.id,
      issueId,
      kind: a.kind,
      step: a.step,
      point: a.point ?? null,
      done: a.done ?? null,
      text: a.text ?? null,
      part: a.part ?? null,
      photo: a.photo ?? null,
      serial: a.serial,
      who: a.who,
      saidAt: a.when,
    })
    .onConflictDoNothing();
  await tell({ type: 'bench', job: row.job });
}

export interface Remark {
  readonly id: string;
  readonly issue: string;
  readonly revision: string;
  readonly step: number;
  readonly text: string;
  readonly part: string | null;
  readonly photo: boolean;
  readonly serial: string;
  readonly who: string;
  readonly saidAt: Date;
  readonly answer: string | null;
}

/** Remarks from the bench on all issues of a job, the oldest first. @param open only those that nobody has answered */
export async function remarksOf(jobId: string, open = false): Promise<Remark[]> {
  const rows = await getDatabase()
    .select({
      id: benchAnswer.id,
      issue: benchAnswer.issueId,
      revision: issue.revision,
      step: benchAnswer.step,
      text: benchAnswer.text,
      part: benchAnswer.part,
      photo: benchAnswer.photo,
      serial: benchAnswer.serial,
      who: benchAnswer.who,
      saidAt: benchAnswer.saidAt,
      answer: benchAnswer.answer,
    })
    .from(benchAnswer)
    .innerJoin(issue, eq(issue.id, benchAnswer.issueId))
    .where(and(eq(issue.jobId, jobId), eq(benchAnswer.kind, 'remark'), ...(open ? [isNull(benchAnswer.answeredAt)] : [])))
    .orderBy(asc(benchAnswer.saidAt));
  return rows.map((r) => ({ ...r, text: r.text ?? '', photo: r.photo !== null }));
}

/** @throws QuarryError NOT_FOUND */
export async function remarkPhoto(jobId: string, id: string): Promise<Uint8Array> {
  const [row] = await getDatabase()
    .select({ photo: benchAnswer.photo })
    .from(benchAnswer)
    .innerJoin(issue, eq(issue.id, benchAnswer.issueId))
    .where(and(eq(issue.jobId, jobId), eq(benchAnswer.id, id)));
  if (!row?.photo) throw new QuarryError('NOT_FOUND', { what: 'The photo' });
  return row.photo;
}

/** Answers a remark: it is no finding any more. @throws QuarryError NOT_FOUND */
export async function answerRemark(jobId: string, id: string, answer: string): Promise<void> {
  const known = (await remarksOf(jobId)).some((r) => r.id === id);
  if (!known) throw new QuarryError('NOT_FOUND', { what: 'The remark' });
  await getDatabase().update(benchAnswer).set({ answer, answeredAt: new Date() }).where(eq(benchAnswer.id, id));
  await tell({ type: 'bench', job: jobId });
}

export interface UnitProgress {
  readonly serial: string;
  readonly revision: string;
  /** Steps that are done, and the last moment that anything was ticked. */
  readonly steps: number;
  /** How many steps its guide has. */
  readonly total: number;
  readonly last: Date;
  readonly who: string;
}

/** How far each unit is, by its serial number. */
export async function progressOf(jobId: string): Promise<UnitProgress[]> {
  const rows = await getDatabase()
    .select({ issue: issue.id, serial: benchAnswer.serial, revision: issue.revision, step: benchAnswer.step, who: benchAnswer.who, saidAt: benchAnswer.saidAt })
    .from(benchAnswer)
    .innerJoin(issue, eq(issue.id, benchAnswer.issueId))
    .where(and(eq(issue.jobId, jobId), eq(benchAnswer.kind, 'tick')))
    .orderBy(asc(benchAnswer.saidAt));
  const units = new Map<string, { issue: string; serial: string; revision: string; steps: Set<number>; last: Date; who: string }>();
  for (const r of rows) {
    const key = `${r.serial}\n${r.revision}`;
    const u = units.get(key) ?? { issue: r.issue, serial: r.serial, revision: r.revision, steps: new Set<number>(), last: r.saidAt, who: r.who };
    u.steps.add(r.step);
    units.set(key, { ...u, last: r.saidAt, who: r.who });
  }
  return Promise.all([...units.values()].map(async ({ issue: of, ...u }) => ({ ...u, steps: u.steps.size, total: await stepsOfGuide(of) })));
}

const known = new Map<string, number>();

/** How many steps the guide of an issue has: what is frozen does not change. */
async function stepsOfGuide(issueId: string): Promise<number> {
  const count = known.get(issueId);
  if (count !== undefined) return count;
  const [, n] = /"count":(\d+)/.exec(await guidePage(issueId)) ?? [];
  known.set(issueId, Number(n ?? 0));
  return Number(n ?? 0);
}

/** Everything that was ticked, checked and remarked, as a table: one row for each answer. */
export async function benchTable(jobId: string): Promise<string[][]> {
  const rows = await getDatabase()
    .select({
      serial: benchAnswer.serial,
      revision: issue.revision,
      kind: benchAnswer.kind,
      step: benchAnswer.step,
      point: benchAnswer.point,
      done: benchAnswer.done,
      text: benchAnswer.text,
      who: benchAnswer.who,
      saidAt: benchAnswer.saidAt,
      answer: benchAnswer.answer,
    })
    .from(benchAnswer)
    .innerJoin(issue, eq(issue.id, benchAnswer.issueId))
    .where(eq(issue.jobId, jobId))
    .orderBy(asc(benchAnswer.serial), asc(benchAnswer.saidAt));
  const WHAT = { tick: 'step done', check: 'check', remark: 'remark' } as const;
  return [
    ['Serial number', 'Revision', 'Step', 'What', 'Check', 'Done', 'Who', 'When', 'Remark', 'Answer'],
    ...rows.map((r) => [
      r.serial,
      r.revision,
      String(r.step),
      WHAT[r.kind],
      r.point === null ? '' : String(r.point + 1),
      r.kind === 'check' ? (r.done ? 'yes' : 'no') : '',
      r.who,
      r.saidAt.toISOString(),
      r.text ?? '',
      r.answer ?? '',
    ]),
  ];
}
