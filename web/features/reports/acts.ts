'use server';

import { issueReport } from '@dusk-tally/lab/reports';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

export async function issueReportAct(
  input: Parameters<typeof issueReport>[2],
): Promise<Outcome<{ number: string }>> {
  const outcome = await outcomeOf(issueReport(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/reports');
  return outcome.ok ? { ok: true, data: { number: outcome.data.number } } : outcome;
}
