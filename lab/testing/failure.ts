import type { LabError } from '../src';

/** The error of work that must fail. */
export const failure = async (work: Promise<unknown>): Promise<LabError> =>
  work.then(
    () => {
      throw new Error('did not fail');
    },
    (error: unknown) => error as LabError,
  );
