/** Why a log was not taken: what was expected, what was found, and where. */
export class LogRefusal extends Error {
  override readonly name = 'LogRefusal';
  readonly code: string;
  /** Line of the file, from 1; null when the whole file is meant. */
  readonly row: number | null;
  readonly column: string | null;

  constructor(details: { code: string; message: string; row?: number; column?: string }) {
    super(details.message);
    this.code = details.code;
    this.row = details.row ?? null;
    this.column = details.column ?? null;
  }
}
