import type { DrawingDocument } from '../../core/document/records';
import { applySteps, type Step } from '../../core/document/steps';
import type { ApiFailure } from './api';

export interface Outcome {
  readonly version: number;
  readonly steps: readonly Step[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

export type Change = { readonly kind: 'edit'; readonly label: string; readonly steps: readonly Step[] } | { readonly kind: 'undo' | 'redo' };

/** The server, as far as changes go. Both throw ApiFailure. */
export interface ChangeLine {
  /** @param token the same for every try of one change: the server makes it once */
  send(change: Change, version: number, token: string): Promise<Outcome>;
  /** What changed after a version, oldest first. */
  since(version: number): Promise<{ readonly changes: readonly { version: number; steps: readonly Step[] }[]; canUndo: boolean; canRedo: boolean }>;
}

export interface OutboxState {
  readonly document: DrawingDocument;
  readonly version: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Changes the server has not confirmed yet. */
  readonly waiting: number;
  /** The server did not answer the last try; the changes wait and are tried again. */
  readonly lost: boolean;
}

interface Pending {
  readonly token: string;
  readonly change: Change;
}

const RETRY_MS = 2000;

/**
 * The changes on their way to the server, in order. A change shows at once; it leaves the box only when the server
 * has confirmed or refused it. Without an answer it waits and is sent again; when someone else was faster, their
 * changes go below and ours on top, as long as they still fit.
 */
export class Outbox {
  private confirmed: DrawingDocument;
  private pending: Pending[] = [];
  private state: OutboxState;
  private sending = false;
  /** The latest version the page was told of. */
  private heard = 0;
  /** A look at the server is wanted, whatever was heard. */
  private look = false;
  private wake: (() => void) | undefined;
  private waiters: (() => void)[] = [];
  private readonly line: ChangeLine;
  private readonly changed: (state: OutboxState) => void;
  private readonly refused: (sentence: string) => void;

  constructor(
    start: { document: DrawingDocument; version: number; canUndo: boolean; canRedo: boolean },
    line: ChangeLine,
    changed: (state: OutboxState) => void,
    refused: (sentence: string) => void,
  ) {
    this.confirmed = start.document;
    this.state = { ...start, waiting: 0, lost: false };
    this.line = line;
    this.changed = changed;
    this.refused = refused;
  }

  /** @returns false when an edit does not fit the document (said to the user) */
  put(change: Change): boolean {
    if (change.kind === 'edit') {
      const result = applySteps(this.state.document, change.steps);
      if (!result.ok) {
        this.refused(`That does not fit: ${result.reason}.`);
        return false;
      }
      this.show({ document: result.document, canUndo: true, canRedo: false });
    }
    this.pending.push({ token: crypto.randomUUID(), change });
    this.show({});
    void this.drain();
    return true;
  }

  /**
   * Looks for changes of others, and tries again at once what waits.
   * @param version one that was heard of; nothing is fetched when it has been taken over by then
   */
  refresh(version?: number): void {
    if (version === undefined) this.look = true;
    else this.heard = Math.max(this.heard, version);
    this.wake?.();
    void this.drain();
  }

  /** Resolves when nothing waits any more. */
  settled(): Promise<void> {
    return this.pending.length ? new Promise((r) => this.waiters.push(r)) : Promise.resolve();
  }

  private async drain(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      while (this.pending.length || this.look || this.heard > this.state.version) {
        const first = this.pending[0];
        if (first) await this.sendOne(first);
        else if (!(await this.catchUp())) return;
      }
    } finally {
      this.sending = false;
    }
  }

  private async sendOne(p: Pending): Promise<void> {
    try {
      const outcome = await this.line.send(p.change, this.state.version, p.token);
      if (outcome.version === this.state.version + 1) {
        this.take([outcome]);
        this.pending.shift();
      } else {
        // An earlier try had arrived after all.
        this.pending.shift();
        this.heard = Math.max(this.heard, outcome.version);
        await this.catchUp();
      }
      // Later changes on their way already made these true.
      this.show(this.pending.length ? { lost: false } : { lost: false, canUndo: outcome.canUndo, canRedo: outcome.canRedo });
    } catch (e) {
      await this.failed(p, e as ApiFailure);
    }
  }

  private async failed(p: Pending, e: ApiFailure): Promise<void> {
    if (e.code === 'OFFLINE') {
      this.show({ lost: true });
      return this.pause();
    }
    if (e.code !== 'STALE_VERSION') return this.drop(p, e.message);
    // An undo is not made blindly on top of what someone else did.
    const before = this.state.version;
    if (!(await this.catchUp())) return this.pause();
    if (p.change.kind !== 'edit' || this.state.version === before) return this.drop(p, e.message);
    const result = applySteps(this.confirmed, p.change.steps);
    if (!result.ok) this.drop(p, `Someone else was faster, and “${p.change.label}” no longer fits: ${result.reason}.`);
  }

  /** Until the next try, or until something happens. */
  private async pause(): Promise<void> {
    await new Promise<void>((r) => {
      this.wake = r;
      setTimeout(r, RETRY_MS);
    });
    this.wake = undefined;
  }

  private drop(p: Pending, sentence: string): void {
    this.pending = this.pending.filter((x) => x !== p);
    this.show({ document: this.replay() });
    this.refused(sentence);
  }

  /** @returns false when the server did not answer; the next try or event looks again */
  private async catchUp(): Promise<boolean> {
    const heard = this.heard;
    this.look = false;
    let news;
    try {
      news = await this.line.since(this.state.version);
    } catch {
      return false;
    }
    this.take(news.changes);
    // A version that is not to be had is not asked for again; one heard of meanwhile is.
    if (this.heard === heard) this.heard = Math.min(heard, this.state.version);
    this.show(this.pending.length ? { lost: false } : { lost: false, canUndo: news.canUndo, canRedo: news.canRedo });
    return true;
  }

  /** Takes confirmed changes over, in the order of their versions. */
  private take(changes: readonly { version: number; steps: readonly Step[] }[]): void {
    let version = this.state.version;
    for (const c of changes) {
      if (c.version !== version + 1) continue;
      const result = applySteps(this.confirmed, c.steps);
      if (!result.ok) throw new Error(`a confirmed change does not fit: ${result.reason}`);
      this.confirmed = result.document;
      version = c.version;
    }
    this.state = { ...this.state, version };
    this.show({ document: this.replay() });
  }

  /** The confirmed document with what waits on top. */
  private replay(): DrawingDocument {
    let document = this.confirmed;
    for (const p of this.pending) {
      if (p.change.kind !== 'edit') continue;
      const result = applySteps(document, p.change.steps);
      if (result.ok) document = result.document;
    }
    return document;
  }

  private show(what: Partial<OutboxState>): void {
    this.state = { ...this.state, ...what, waiting: this.pending.length };
    this.changed(this.state);
    if (this.pending.length === 0) for (const done of this.waiters.splice(0)) done();
  }
}
