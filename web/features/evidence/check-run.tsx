'use client';

import type { CheckedFigure } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { checkRunAct } from './acts';
import { QUANTITY_WORDS } from '@/kit/quantity-words';

/** Computes the run again from its stored trace and says whether the bits are the same. */
export function CheckRun({ runId }: { runId: number }) {
  const { run, busy, problem } = useAct();
  const [lines, setLines] = useState<CheckedFigure[] | null>(null);
  const other = lines?.filter((line) => !line.same) ?? [];
  return (
    <div>
      <Button disabled={busy} onClick={() => run(() => checkRunAct({ id: runId }), setLines)}>
        {busy ? 'Computing …' : 'Compute again and compare'}
      </Button>
      {problem && <Problem>{problem}</Problem>}
      {lines && (
        <div className="mt-2" role="status">
          {other.length === 0 ? (
            <p>All {lines.length} figures come out the same, to the last bit.</p>
          ) : (
            <>
              <p>
                {other.length} of {lines.length} figures come out otherwise today:
              </p>
              <ul className="list-disc pl-5">
                {other.map((line) => (
                  <li key={line.quantity}>
                    {QUANTITY_WORDS[line.quantity]}: {line.stored.value} (method version{' '}
                    {line.stored.methodVersion}) is now{' '}
                    {line.now
                      ? `${line.now.value} (version ${line.now.methodVersion})`
                      : 'not computed any more'}
                    .
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </div>
  );
}
