import { createToaster } from '@skeletonlabs/skeleton-svelte';

export const toaster = createToaster({ placement: 'bottom-end' });

/** A short word to the user. */
export function notify(kind: 'good' | 'trouble', text: string): void {
  const create = kind === 'good' ? toaster.success : toaster.error;
  create({ title: text, duration: kind === 'good' ? 3000 : 8000 });
}

/** Says something, and offers to do what may be wanted next. */
export function offer(text: string, label: string, run: () => void): void {
  toaster.create({ title: text, type: 'info', duration: 12_000, action: { label, onClick: run } });
}
