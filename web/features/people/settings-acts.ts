'use server';

import { changeSettings, setReportMark } from '@dusk-tally/lab/people';
import { lab } from '@/lib/lab';
import type { Outcome } from '@/lib/outcome';
import { renewed, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export async function changeSettingsAct(
  input: Parameters<typeof changeSettings>[2],
): Promise<Outcome<void>> {
  return runAct(changeSettings, input);
}

/** The mark reports carry from now on: `version`, `reason`, and `picture` unless it is taken away. */
export async function setReportMarkAct(form: FormData): Promise<Outcome<void>> {
  const picture = form.get('picture');
  return renewed(
    setReportMark(lab(), await actor(), {
      version: Number(form.get('version')),
      picture: picture instanceof File ? new Uint8Array(await picture.arrayBuffer()) : null,
      reason: typeof form.get('reason') === 'string' ? (form.get('reason') as string) : '',
    }),
  );
}
