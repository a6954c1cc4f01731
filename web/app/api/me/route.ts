import { answer } from '@/lib/api';

/** Who is signed in on this browser. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async ({ id, name }) => Response.json({ ok: true, data: { id, name } }));
}
