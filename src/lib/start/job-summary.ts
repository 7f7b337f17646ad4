/** A job as the start page lists it. */
export interface JobSummary {
  readonly id: string;
  readonly title: string;
  /** `drafting`: first sheets stand, others are still being drawn. */
  readonly state: 'queued' | 'working' | 'drafting' | 'ready' | 'failed' | 'cancelled';
  readonly stage: string;
  readonly progress: number;
  readonly errorText: string | null;
  readonly fileBytes: number;
  /** What it takes in all. */
  readonly bytes: number;
  readonly changedAt: Date;
  readonly components: number;
  readonly parts: number;
}
