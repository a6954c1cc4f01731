'use client';

import type { foldTrouble } from '@dusk-tally/lab/gathering';
import { Button } from '@/kit/button';
import { LabMoment } from '@/kit/lab-time';
import { Problem } from '@/kit/page';
import { ReasonForm } from '@/kit/reason-form';
import { useAct } from '@/kit/use-act';
import { leaveUnfoldedAct, tryFoldAgainAct } from './bench-acts';

/** Why a run that ended is no evidence yet, and what can be done about it. */
export function FoldTrouble({
  benchRunId,
  trouble,
  mayLead,
}: {
  benchRunId: number;
  trouble: NonNullable<Awaited<ReturnType<typeof foldTrouble>>>;
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  const { reason, tries, nextAt, leftReason } = trouble;
  if (leftReason !== null)
    return (
      <p className="panel p-3 text-[0.9rem]">
        Not all of this run became evidence: {reason} A lead left it so: {leftReason}
      </p>
    );
  return (
    <section className="panel border-doubt p-3" aria-label="No evidence yet">
      <p>
        <strong className="text-doubt">This run is no evidence yet.</strong> {reason}
      </p>
      <p className="text-[0.87rem] text-quiet">
        Tried {tries === 1 ? 'once' : `${tries} times`}; tried again by itself at{' '}
        <LabMoment at={nextAt} />. Its readings are kept.
      </p>
      {problem && <Problem>{problem}</Problem>}
      <div className="mt-2 flex flex-wrap items-start gap-3">
        <Button disabled={busy} onClick={() => run((key) => tryFoldAgainAct({ benchRunId }, key))}>
          Try again now
        </Button>
        {mayLead && (
          <ReasonForm
            open="Leave it without evidence …"
            title="Leave this run without evidence"
            note="Its readings stay here; nothing of what was refused counts for the cell."
            label="Why"
            does="Leave it"
            act={(why, _form, key) => leaveUnfoldedAct({ benchRunId, reason: why }, key)}
          />
        )}
      </div>
    </section>
  );
}
