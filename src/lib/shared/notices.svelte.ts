import { createToaster } from '@skeletonlabs/skeleton-svelte';

export const toaster = createToaster({ placement: 'bottom-end' });

/** A short word to the user. */
export function notify(kind: 'good' | 'trouble', text: string): void {
  const create = kind === 'good' ? toaster.success : toaster.error;
  create({ title: text, duration: kind === 'good' ? 3000 : 8000 });
}
