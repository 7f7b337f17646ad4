import { error, redirect } from '@sveltejs/kit';
import type { DrawingData } from './drawing.svelte';

/**
 * What a stage of a job is opened with. It comes from one address that is known before the page stands: hooks tell the browser to fetch it
 * at once. A job that has no drawing yet leads back to the list.
 */
export async function openJob(fetch: typeof globalThis.fetch, id: string): Promise<{ drawing: DrawingData }> {
  const response = await fetch(`/api/jobs/${id}/drawing`);
  const answer = (await response.json()) as DrawingData & { state: string; error?: { code: string; message: string } };
  if (response.status === 404 && (await fetch(`/api/jobs/${id}`)).ok) redirect(307, '/');
  if (!response.ok) error(response.status, answer.error ?? { code: 'INTERNAL', message: 'The server gave no understandable answer.' });
  if (answer.state !== 'ready' && answer.state !== 'drafting') redirect(307, '/');
  return { drawing: answer };
}
