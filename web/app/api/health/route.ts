import { lab } from '@/lib/lab';

export const dynamic = 'force-dynamic';

/** Says whether app and database answer. */
export async function GET(): Promise<Response> {
  try {
    await lab().store.answers();
    return Response.json({ ok: true });
  } catch {
    return Response.json({ ok: false, message: 'The database does not answer.' }, { status: 503 });
  }
}
