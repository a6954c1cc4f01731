'use client';

import type { StepView } from '@dusk-tally/lab/arrivals';
import { ArrowLeft, ArrowRight, Check, Circle, CircleDot, SkipForward } from 'lucide-react';
import { Link } from '@/kit/link';
import { Button, ButtonLink } from '@/kit/button';
import { Problem } from '@/kit/page';
import { STEP_NAMES, type StepName } from './step-words';
import { useReceiving } from './use-receiving';

const ICON = { open: Circle, begun: CircleDot, done: Check, leftOut: SkipForward };
const STATE_WORDS = { open: 'open', begun: 'begun', done: 'done', leftOut: 'left out' };

/** Steps of receiving a lot: any may be taken, left out and come back to. */
export function StepRail({
  code,
  steps,
  current,
}: {
  code: string;
  steps: StepView[];
  current: StepName;
}) {
  return (
    <nav aria-label="Steps of receiving" className="mb-4">
      <ol className="grid grid-cols-[repeat(auto-fit,minmax(6.4rem,1fr))] gap-2">
        {steps.map(({ step, state, words }) => {
          const Icon = ICON[state];
          const here = step === current;
          return (
            <li key={step}>
              <Link
                href={`/lots/${code}/arrival/${step}`}
                scroll={false}
                aria-current={here ? 'step' : undefined}
                className={`flex h-full min-h-14 flex-col justify-center rounded-sm border px-2.5 py-1.5 ${here ? 'border-ember bg-ember-wash' : 'border-rule bg-sheet hover:bg-wash'}`}
              >
                <span className="flex items-center gap-1.5 font-semibold leading-tight">
                  <Icon size={15} aria-hidden className={state === 'done' ? 'text-met' : ''} />
                  {STEP_NAMES[step]}
                  <span className="sr-only">, {STATE_WORDS[state]}</span>
                </span>
                <span className="text-[0.8rem] leading-tight text-quiet">{words}</span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

/** Back, leave out and on, at the foot of each step. */
export function StepFoot({
  lotId,
  code,
  steps,
  current,
}: {
  lotId: number;
  code: string;
  steps: StepView[];
  current: StepName;
}) {
  const { enter, busy, problem } = useReceiving(lotId);
  const at = steps.findIndex((row) => row.step === current);
  const { state } = steps[at] ?? { state: 'open' as const };
  const before = steps[at - 1];
  const after = steps[at + 1];
  const leftOut = state === 'leftOut';
  return (
    <div className="mt-5 border-t border-rule pt-4">
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap justify-between gap-3">
        {before ? (
          <ButtonLink className="min-h-11" href={`/lots/${code}/arrival/${before.step}`}>
            <ArrowLeft size={16} aria-hidden /> {STEP_NAMES[before.step]}
          </ButtonLink>
        ) : (
          <span />
        )}
        <span className="flex flex-wrap gap-3">
          {state !== 'done' && (
            <Button
              look="bare"
              className="min-h-11"
              disabled={busy}
              onClick={() => enter([{ field: `skip:${current}`, value: !leftOut }])}
            >
              {leftOut ? 'Take this step up again' : 'Leave this step out'}
            </Button>
          )}
          {after ? (
            <ButtonLink className="min-h-11" href={`/lots/${code}/arrival/${after.step}`}>
              {STEP_NAMES[after.step]} <ArrowRight size={16} aria-hidden />
            </ButtonLink>
          ) : (
            <ButtonLink className="min-h-11" href="/">
              Today <ArrowRight size={16} aria-hidden />
            </ButtonLink>
          )}
        </span>
      </div>
    </div>
  );
}
