'use client';

import type { RefusedView } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { Button } from '@/kit/button';
import { LabMoment } from '@/kit/lab-time';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { seeRefusedAct } from './bench-acts';
import { Fold } from '@/kit/fold';

/** Records of agents that could not be taken: set aside, kept, and told until somebody saw them. */
export function RefusedList({ refused }: { refused: readonly RefusedView[] }) {
  const { run, busy, problem } = useAct();
  if (refused.length === 0) return null;
  return (
    <section className="panel mb-4 border-2 border-doubt p-4" aria-labelledby="set-aside">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <h2 id="set-aside" className="font-semibold">
          {refused.length === 1
            ? 'A record of a run was set aside'
            : `${refused.length} records of runs were set aside`}
        </h2>
        <Button
          disabled={busy}
          onClick={() => run((key) => seeRefusedAct({ ids: refused.map(({ id }) => id) }, key))}
        >
          Seen
        </Button>
      </div>
      <p className="text-quiet">
        They could not be taken as they came. All others were; these stay kept with their reason.
        Look whether agent and app are of the same version.
      </p>
      <ul className="mt-1 max-h-60 space-y-1 overflow-y-auto">
        {refused.map(({ id, agent, benchRunId, seq, reason, body, at }) => (
          <li key={id}>
            <LabMoment at={at} />, agent {agent}
            {benchRunId !== null && (
              <>
                ,{' '}
                <Link href={`/bench/runs/${benchRunId}`} className="underline">
                  run {benchRunId}
                </Link>
                , number {seq}
              </>
            )}
            : {reason}
            <Fold title="as it came">
              <code className="text-[0.82rem] break-all">{body}</code>
            </Fold>
          </li>
        ))}
      </ul>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
