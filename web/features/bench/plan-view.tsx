'use client';

import type { RecipePurpose } from '@dusk-tally/core/bench';
import type { BoardJob, PlanBoard as Board, StartList } from '@dusk-tally/lab/bench';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, ButtonLink } from '@/kit/button';
import { Empty, Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { moveJobAct, planAllAct } from './bench-acts';
import { HoursForm } from './hours-form';
import { JobForm, type LotChoice } from './job-form';
import { Picked } from './picked-job';
import { PlanBoard, type Place } from './plan-board';
import { clockOf } from '@/kit/use-clock';
import { StartDialog } from './start-dialog';
import { lengthOf } from './words';

export type { StartList };

/** What the last planning found, in a sentence or two. */
function Summary({ board }: { board: Board }) {
  const { planSummary: plan, plannedAt } = board.settings;
  if (!plan || !plannedAt) return null;
  const now = new Date(board.now);
  const titles = new Map(board.channels.map(({ id, title }) => [id, title]));
  const open = board.jobs.length;
  if (open === 0) return null;
  return (
    <p className="max-w-[100ch]" data-testid="plan-summary">
      Planned {clockOf(String(plannedAt), now, board.timeZone)}: all done by{' '}
      <strong>{clockOf(plan.finishAt, now, board.timeZone)}</strong>.
      {plan.lateJobs > 0 && <strong className="text-missed"> {plan.lateJobs} late.</strong>}{' '}
      {plan.gap < 0.0005
        ? `No plan could end earlier (${plan.boundFrom}).`
        : `No plan could end before ${clockOf(plan.boundAt, now, board.timeZone)} (${plan.boundFrom}); this one is ${(100 * plan.gap).toFixed(1)} % above.`}
      {plan.oneMore && (
        <>
          {' '}
          One more channel like {titles.get(plan.oneMore.channelId) ?? 'these'} would save{' '}
          {lengthOf(plan.oneMore.savedS)}.
        </>
      )}
      {plan.impossible.length > 0 && (
        <span className="text-missed">
          {' '}
          {plan.impossible.length} cannot be planned: {plan.impossible[0]!.reason}
        </span>
      )}
    </p>
  );
}

/** Planning: what waits, the board of channels against hours, what the plan is worth. */
export function PlanView({
  board,
  lots,
  recipes,
  mayLead,
}: {
  board: Board;
  lots: readonly LotChoice[];
  recipes: readonly { id: number; name: string; purpose: RecipePurpose }[];
  mayLead: boolean;
}) {
  const [days, setDays] = useState(3);
  const [chosen, setChosen] = useState<string | null>(null);
  const [starting, setStarting] = useState<BoardJob | null>(null);
  const router = useRouter();
  const { run, busy, problem } = useAct();
  const [refused, setRefused] = useState<string | null>(null);
  const [jobId, part] = (chosen ?? '0:0').split(':').map(Number);
  const picked = board.jobs.find(({ id }) => id === jobId);
  const unplanned = board.jobs.filter(({ parts }) => parts.length === 0);
  const drop = ({ job, part: moved, channelId, from }: Place) => {
    setRefused(null);
    run(
      (key) =>
        moveJobAct({ jobId: job.id, version: job.version, part: moved, channelId, from }, key),
      undefined,
      ({ message }) => {
        setRefused(`${job.cell}: ${message}`);
        // What the board showed may be what it no longer is.
        router.refresh();
        return true;
      },
    );
  };
  return (
    <div className="space-y-4">
      <section className="panel p-4" aria-label="Cells to test">
        <JobForm lots={lots} recipes={recipes} />
      </section>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <div className="flex flex-wrap items-center gap-2">
          <Button
            look="primary"
            disabled={busy || board.jobs.length === 0}
            onClick={() => run((key) => planAllAct({}, key))}
          >
            {busy ? 'Planning …' : 'Plan from now on'}
          </Button>
          {busy && <StopPlanning />}
          <ButtonLink href="/api/due/calendar" prefetch={false}>
            Calendar file
          </ButtonLink>
          <HoursForm settings={board.settings} mayLead={mayLead} />
        </div>
        <div role="group" aria-label="Days shown" className="flex gap-1">
          {[1, 3, 7, 21, 42].map((n) => (
            <button
              key={n}
              type="button"
              aria-pressed={n === days}
              onClick={() => setDays(n)}
              className={`min-h-9 rounded-sm px-3 ${n === days ? 'bg-ember-wash font-semibold' : 'text-quiet hover:bg-wash'}`}
            >
              {n === 1 ? '1 day' : n < 21 ? `${n} days` : `${n / 7} weeks`}
            </button>
          ))}
        </div>
      </div>
      {problem && <Problem>{problem}</Problem>}
      {refused && <Problem>{refused}</Problem>}
      <Summary board={board} />
      {board.channels.length === 0 ? (
        <Empty title="No channel yet">
          Describe a tester under Lab first, then its limits under Channels.
        </Empty>
      ) : (
        <PlanBoard board={board} days={days} chosen={chosen} choose={setChosen} drop={drop} />
      )}
      <p className="text-[0.82rem] text-quiet">
        Light: somebody is there to connect a cell. A bar on the left of a job: its first charge is
        watched. Drag a job, or pick it and use the form below the board.
      </p>
      {picked && (
        <Picked
          key={`${chosen}-${picked.version}`}
          job={picked}
          part={part ?? 0}
          board={board}
          start={() => setStarting(picked)}
          drop={drop}
        />
      )}
      {unplanned.length > 0 && (
        <section className="panel p-4" aria-label="Not planned">
          <h2 className="font-semibold">{unplanned.length} on the list, not planned</h2>
          <ul className="mt-1 columns-1 gap-6 sm:columns-2 lg:columns-3">
            {unplanned.slice(0, 90).map((job) => (
              <li key={job.id}>
                <button
                  type="button"
                  className="text-left hover:underline"
                  onClick={() => setChosen(`${job.id}:0`)}
                >
                  {job.cell}, {job.recipe}
                </button>
                {job.leastS !== null && (
                  <span className="text-quiet">, {lengthOf(job.leastS)}</span>
                )}
                {job.problem && <span className="text-missed"> {job.problem}</span>}
              </li>
            ))}
          </ul>
        </section>
      )}
      {starting && (
        <StartDialog job={starting} channels={board.channels} close={() => setStarting(null)} />
      )}
    </div>
  );
}

/** Shown while the planner looks for something better: it may be told that this will do. */
function StopPlanning() {
  const [asked, setAsked] = useState(false);
  return (
    <Button
      disabled={asked}
      onClick={() => {
        setAsked(true);
        void fetch('/api/bench/plan-stop', { method: 'POST' }).catch(() => setAsked(false));
      }}
    >
      {asked ? 'Taking the best so far …' : 'Take the best so far'}
    </Button>
  );
}
