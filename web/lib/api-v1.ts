import 'server-only';
import { type Actor, LabError } from '@dusk-tally/lab';
import { actorOfToken } from '@dusk-tally/lab/bench';
import { type ApiOperation } from '@dusk-tally/lab/api';
import { lab } from './lab';

const STATUS: Record<LabError['code'], number> = {
  notSignedIn: 401,
  notAllowed: 403,
  notFound: 404,
  invalid: 422,
  conflict: 409,
  duplicate: 409,
  tooMany: 429,
};

const problem = (status: number, code: string, message: string) =>
  Response.json({ error: { code, message } }, { status });

/** Answers an operation: token with its scope, size, errors as JSON. */
export async function answerToken(
  request: Request,
  operation: ApiOperation,
  work: (who: Actor) => Promise<Response>,
): Promise<Response> {
  try {
    const who = await actorOfToken(lab(), request.headers.get('authorization'), operation.scope);
    const length = Number(request.headers.get('content-length') ?? 0);
    if (length > operation.mostBytes && operation.method === 'post')
      return problem(
        413,
        'tooLarge',
        `Expected at most ${operation.mostBytes} bytes; ${length} were announced.`,
      );
    return await work(who);
  } catch (error) {
    if (error instanceof TooLarge) return problem(413, 'tooLarge', error.message);
    if (error instanceof LabError) return problem(STATUS[error.code], error.code, error.message);
    console.error(error);
    return problem(500, 'failed', 'The server could not do this. Nothing was stored; try again.');
  }
}

/** A body longer than an operation takes. */
class TooLarge extends Error {}

/** A request’s body; no more of it than the operation’s size is read. @throws TooLarge */
export async function bytesOf(
  request: Request,
  { mostBytes }: Pick<ApiOperation, 'mostBytes'>,
): Promise<Uint8Array<ArrayBuffer>> {
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  for (let read = await reader?.read(); read && !read.done; read = await reader!.read()) {
    length += read.value.length;
    if (length > mostBytes) {
      await reader!.cancel();
      throw new TooLarge(`Expected at most ${mostBytes} bytes; more came.`);
    }
    parts.push(read.value);
  }
  const bytes = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

/** A request’s JSON, of at most the operation’s size. @throws LabError when it is none. */
export async function jsonOf<T>(
  request: Request,
  operation: Pick<ApiOperation, 'mostBytes'>,
): Promise<T> {
  const bytes = await bytesOf(request, operation);
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes)) as T;
  } catch {
    throw new LabError('invalid', 'Expected JSON in the body.');
  }
}
