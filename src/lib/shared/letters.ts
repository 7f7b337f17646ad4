/** So many letters within so long are a word that went astray, ms. */
const BURST = 3;
const BURST_MS = 200;
/** How long letters do nothing after a text ended by the way, ms. */
const HUSH_MS = 500;

/** The clock, and what is done later: tests have their own. */
export interface Clock {
  now(): number;
  after(ms: number, run: () => void): () => void;
}

const CLOCK: Clock = {
  now: () => performance.now(),
  after(ms, run) {
    const timer = setTimeout(run, ms);
    return () => clearTimeout(timer);
  },
};

/**
 * Letters and digits that are commands when pressed by themselves, and nothing when they are a word that was meant for a text: a
 * letter waits until it is clear that no word follows, and letters do nothing for a while after a text ended in another way than by
 * Enter or Escape.
 */
export class Letters {
  private waiting: { readonly at: number; readonly run: () => void }[] = [];
  private stop: () => void = () => {};
  private hushed = -Infinity;
  private readonly clock: Clock;

  constructor(clock: Clock = CLOCK) {
    this.clock = clock;
  }

  /** A letter was pressed. @param run what it does as a command */
  press(run: () => void): void {
    const now = this.clock.now();
    // While someone goes on typing nothing runs.
    if (now < this.hushed) {
      this.hush();
      return;
    }
    this.waiting.push({ at: now, run });
    if (this.waiting.length >= BURST && now - this.waiting[0]!.at < BURST_MS) {
      this.hush();
      return;
    }
    this.stop();
    this.stop = this.clock.after(this.waiting[0]!.at + BURST_MS - now, () => this.flush());
  }

  /** Another key or the pointer shows that no word follows: what waits is done now. */
  flush(): void {
    this.stop();
    const { waiting } = this;
    this.waiting = [];
    for (const w of waiting) w.run();
  }

  /** A text ended by the way, or was missed: letters do nothing for a while. */
  hush(): void {
    this.stop();
    this.waiting = [];
    this.hushed = this.clock.now() + HUSH_MS;
  }
}

/** Those of the page. */
export const letters = new Letters();
