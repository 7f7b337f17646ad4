import { getPool } from '$server';

export async function GET() {
  try {
    await getPool().query('select 1');
    return Response.json({ ok: true, database: 'up' });
  } catch {
    return Response.json({ ok: false, database: 'down' }, { status: 503 });
  }
}
