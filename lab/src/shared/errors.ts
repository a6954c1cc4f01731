export type LabErrorCode =
  'notSignedIn' | 'notAllowed' | 'notFound' | 'invalid' | 'conflict' | 'duplicate' | 'tooMany';

/** An act that could not be done: what happened, what was kept, what to do. */
export class LabError extends Error {
  override readonly name = 'LabError';
  constructor(
    readonly code: LabErrorCode,
    message: string,
    /** Field of the input the message belongs to, and other facts the screen needs. */
    readonly details: { field?: string; link?: string; current?: unknown; gate?: string } = {},
  ) {
    super(message);
  }
}
