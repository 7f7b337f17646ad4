import { describe, expect, it } from 'vitest';
import { openJob } from './open-job';

const id = 'a3f91a70-3b47-4432-aa98-3268a6dc40d5';
const json = (data: unknown, status = 200) => new Response(JSON.stringify(data), { status });
/** A server that answers what is told of each address. */
const server = (answers: Record<string, Response>) => (async (path: string) => answers[path] ?? json({}, 404)) as typeof fetch;
const drawing = `/api/jobs/${id}/drawing`;

describe('opening a job', () => {
  it('takes the drawing as it comes', async () => {
    const data = { id, state: 'ready', version: 3, document: {} };
    expect(await openJob(server({ [drawing]: json(data) }), id)).toEqual({ drawing: data });
  });
  it('leads back to the list while the job is being made, with or without a drawing', async () => {
    await expect(openJob(server({ [drawing]: json({ id, state: 'working' }) }), id)).rejects.toMatchObject({ status: 307, location: '/' });
    const none = server({ [drawing]: json({ error: { code: 'NOT_FOUND', message: 'x' } }, 404), [`/api/jobs/${id}`]: json({ id, state: 'queued' }) });
    await expect(openJob(none, id)).rejects.toMatchObject({ status: 307, location: '/' });
  });
  it('says that a job is not there in the words of the server', async () => {
    const none = server({ [drawing]: json({ error: { code: 'NOT_FOUND', message: 'The job was not found.' } }, 404) });
    await expect(openJob(none, id)).rejects.toMatchObject({ status: 404, body: { code: 'NOT_FOUND', message: 'The job was not found.' } });
  });
});
