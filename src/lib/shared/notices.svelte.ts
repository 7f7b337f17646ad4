import { createToaster } from '@skeletonlabs/skeleton-svelte';

export const toaster = createToaster({ placement: 'bottom-end' });

/** What is said where something new finds no free room on its sheet. */
export const noRoomFor = (what: string): string =>
  `There is no free room for ${what} on this sheet: it covers something now. Arrange the sheet (E), move it, or take a larger sheet.`;

/** A short word to the user. */
export function notify(kind: 'good' | 'trouble', text: string): void {
  const create = kind === 'good' ? toaster.success : toaster.error;
  create({ title: text, duration: kind === 'good' ? 3000 : 8000 });
}
