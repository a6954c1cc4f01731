import { LabError } from '@dusk-tally/lab';

/** What the person can mend: in words, with the field of the input it belongs to. */
export interface Refusal {
  ok: false;
  code: string;
  message: string;
  field?: string;
  link?: string;
  /** What is stored now, where somebody else was faster. */
  current?: unknown;
}

/** Result of an act as the screen gets it. */
export type Outcome<T> = { ok: true; data: T } | Refusal;

/** Runs an act; what the person can mend comes back as words, the rest is thrown. */
export async function outcomeOf<T>(work: Promise<T>): Promise<Outcome<T>> {
  try {
    return { ok: true, data: await work };
  } catch (error) {
    if (error instanceof LabError)
      return { ok: false, code: error.code, message: error.message, ...error.details };
    throw error;
  }
}
