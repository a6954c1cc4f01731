'use server';

import { keepBooks } from '@dusk-tally/lab/money';
import { type ActInput, runAct } from '@/lib/run-act';

/** Keeps what people say of a lot’s money. */
export const keepBooksAct = async (input: ActInput<typeof keepBooks>, key?: string) =>
  runAct(keepBooks, input, key);
