import 'server-only';
import { LabError } from '@dusk-tally/lab';
import { lotHead } from '@dusk-tally/lab/verdicts';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { lab } from './lab';
import { requireActor } from './session';

/** Turns "no such thing" of the lab into the not-found page. */
export async function orNotFound<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof LabError && error.code === 'notFound') notFound();
    throw error;
  }
}

/** The head of a lot's pages and who looks at it. */
export const lotContext = cache(async (code: string) => {
  const who = await requireActor();
  return { who, head: await orNotFound(lotHead(lab(), who, { code })) };
});
