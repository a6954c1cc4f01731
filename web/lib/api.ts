import 'server-only';
import { type Actor, LabError } from '@dusk-tally/lab';
import { actor } from './session';

const STATUS = {
  notSignedIn: 401,
  notAllowed: 403,
  notFound: 404,
  invalid: 422,
  conflict: 409,
  duplicate: 409,
  tooMany: 429,
} as const;

/** Whether a changing request comes from our own pages. */
function isOwnPage(request: Request): boolean {
  const origin = request.headers.get('origin');
  if (!origin) return request.headers.get('sec-fetch-site') !== 'cross-site';
  return new URL(origin).host === request.headers.get('host');
}

/** Answers a route: signed in, own page, errors as JSON with the right status. */
export async function answer(
  request: Request,
  work: (who: Actor) => Promise<Response>,
): Promise<Response> {
  try {
    if (request.method !== 'GET' && !isOwnPage(request))
      throw new LabError('notAllowed', 'This request does not come from a page of this app.');
    const who = await actor();
    if (!who)
      throw new LabError(
        'notSignedIn',
        'You are signed out, or somebody else has signed in on this browser. Sign in again; nothing typed is lost.',
      );
    return await work(who);
  } catch (error) {
    if (error instanceof LabError) {
      return Response.json(
        { ok: false, code: error.code, message: error.message, ...error.details },
        { status: STATUS[error.code] },
      );
    }
    console.error(error);
    return Response.json(
      {
        ok: false,
        code: 'failed',
        message:
          'The server could not do this. Nothing was stored. Try again; if it stays, tell the admin.',
      },
      { status: 500 },
    );
  }
}

/** Compressed columns and curves do not change once stored. */
export const bytesResponse = (bytes: Uint8Array, headers: Record<string, string> = {}): Response =>
  new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'application/octet-stream', ...headers },
  });

/** A PDF to be read in the browser, under the name of its number. */
export const pdfResponse = (number: string, pdf: Uint8Array): Response =>
  bytesResponse(pdf, {
    'Content-Type': 'application/pdf',
    'Content-Disposition': `inline; filename="${number.replace(/[^\w-]/g, '')}.pdf"`,
  });

/** A request’s JSON. @throws in words when it is none. */
export async function jsonBody<T>(request: Request, expected: string): Promise<T> {
  try {
    const body: unknown = await request.json();
    if (typeof body === 'object' && body !== null) return body as T;
  } catch {
    // Told below: what was expected.
  }
  throw new LabError('invalid', `Expected JSON with ${expected}.`);
}
