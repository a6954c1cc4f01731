'use server';

import { changeSettings, setReportMark } from '@dusk-tally/lab/people';
import type { Outcome } from '@/lib/outcome';
import { runAct } from '@/lib/run-act';

export async function changeSettingsAct(
  input: Parameters<typeof changeSettings>[2],
  key?: string,
): Promise<Outcome<void>> {
  return runAct(changeSettings, input, key);
}

/** The mark reports carry from now on: `version`, `reason`, and `picture` unless it is taken away. */
export async function setReportMarkAct(form: FormData, key?: string): Promise<Outcome<void>> {
  const picture = form.get('picture');
  return runAct(
    setReportMark,
    {
      version: Number(form.get('version')),
      picture: picture instanceof File ? new Uint8Array(await picture.arrayBuffer()) : null,
      reason: typeof form.get('reason') === 'string' ? (form.get('reason') as string) : '',
    },
    key,
  );
}
