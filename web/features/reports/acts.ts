'use server';

import { issueReport } from '@dusk-tally/lab/reports';
import { lab } from '@/lib/lab';
import type { Outcome } from '@/lib/outcome';
import { renewed } from '@/lib/run-act';
import { actor } from '@/lib/session';

export async function issueReportAct(
  input: Parameters<typeof issueReport>[2],
  key?: string,
): Promise<Outcome<{ number: string }>> {
  const outcome = await renewed(issueReport(lab(), await actor(), input, key));
  return outcome.ok ? { ok: true, data: { number: outcome.data.number } } : outcome;
}
