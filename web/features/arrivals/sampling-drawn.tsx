'use client';

import type { SampleView } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button, ButtonLink } from '@/kit/button';
import { Problem } from '@/kit/page';
import { ReopenSample } from './reopen-sample';
import { useReceiving } from './use-receiving';
import { Input, Label } from '@/kit/form-parts';

/** Words of a cell’s result, as the plan takes it. */
const STATE_WORDS = {
  short: 'short',
  good: 'holds its claim',
  tooClose: 'too close to call',
  held: 'held: passed over',
  open: 'not comparable',
  untested: 'not tested',
};

/** The sample that is drawn: which cells, how far they are, and what it says. */
export function Drawn({
  lotId,
  code,
  sample,
  mayLead,
}: {
  lotId: number;
  code: string;
  sample: SampleView;
  mayLead: boolean;
}) {
  const { plan, picks, outcome, decision } = sample;
  return (
    <section className="panel p-4" aria-label="The sample">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-semibold">
          {plan.method === 'all'
            ? `All ${plan.lotSize} cells`
            : `${sample.sequential ? 'At most ' : ''}${plan.sampleSize} of ${plan.lotSize} cells`}
        </h2>
        <ButtonLink href={`/lots/${code}/pick-list`}>Pick list to print</ButtonLink>
      </div>
      <p>{sample.words}</p>
      {sample.doubtWords && <p className="text-doubt">{sample.doubtWords}</p>}
      <p className="text-quiet">
        Drawn by {sample.person} with the seed {plan.seed}
        {plan.strata.length > 1 && `, in proportion from ${plan.strata.length} dates and boxes`}
        {sample.drawnBefore > 0 &&
          `; drawn ${sample.drawnBefore} times before (${plan.reason ?? ''})`}
        .
      </p>
      <p className="mt-2 font-medium" data-testid="sample-outcome">
        {outcomeWords(sample)}
      </p>
      <ReopenSample lotId={lotId} sample={sample} mayLead={mayLead} />
      {sample.sequential && outcome === 'open' && <TestNext standing={sample.sequential} />}
      {outcome === 'failed' && (
        <Decision lotId={lotId} planId={plan.id} decision={decision} mayLead={mayLead} />
      )}
      {plan.method !== 'all' && (
        <ul className="mt-3 flex flex-wrap gap-1.5" aria-label="Drawn cells">
          {picks.slice(0, 400).map((pick, i) => (
            <li key={pick.id}>
              <Link
                href={`/cells/${pick.number}`}
                title={STATE_WORDS[pick.state]}
                className={`block rounded-sm border px-2 py-0.5 tabular-nums ${pick.state === 'short' ? 'border-missed text-missed' : pick.state === 'good' ? 'border-met' : 'border-rule text-quiet'}`}
              >
                {sample.sequential && <span className="text-quiet">{i + 1}. </span>}
                {pick.number}
                {['short', 'tooClose', 'held', 'open'].includes(pick.state) &&
                  ` ${STATE_WORDS[pick.state]}`}
                {pick.now && (
                  <span className="text-quiet"> at first; now {STATE_WORDS[pick.now]}</span>
                )}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** How the sample stands, in a sentence. */
function outcomeWords({ plan, picks, outcome, short, judged, sequential }: SampleView): string {
  if (sequential) {
    const { counted, short: found, toAccept, toReject } = sequential;
    const so = `${counted} ${counted === 1 ? 'result' : 'results'} in their order, ${found} short`;
    if (outcome === 'accepted') return `Passed: ${so}. No further test decides anything.`;
    if (outcome === 'failed') return `Failed: ${so}. No further test decides anything.`;
    return `${so}: not decided. ${toAccept === null ? 'None can accept it early' : `At least ${toAccept} more, all good, would accept`}; ${toReject === null ? 'none can reject it early' : `${toReject} more, all short, would reject`}.`;
  }
  if (outcome === 'failed') return `Failed: ${short} short, ${plan.acceptance} may be.`;
  if (outcome === 'accepted')
    return plan.method === 'all'
      ? 'All are judged.'
      : `Passed: ${short} short, ${plan.acceptance} may be.`;
  return `${judged} of ${picks.length} judged, ${short} short so far.`;
}

/** Which cells to test next: in the order that was drawn, so that stopping early picks nothing. */
function TestNext({ standing }: { standing: NonNullable<SampleView['sequential']> }) {
  if (standing.next.length === 0) return null;
  return (
    <p className="mt-1">
      Test next, in this order:{' '}
      {standing.next.map((number, i) => (
        <span key={number}>
          {i > 0 && ', '}
          <Link href={`/cells/${number}`} className="underline">
            {number}
          </Link>
        </span>
      ))}
      .
    </p>
  );
}

function Decision({
  lotId,
  planId,
  decision,
  mayLead,
}: {
  lotId: number;
  planId: number;
  decision: SampleView['decision'];
  mayLead: boolean;
}) {
  const { enter, problem } = useReceiving(lotId);
  const [reason, setReason] = useState('');
  const WORDS = { testAll: 'Test all', return: 'Return the lot', accept: 'Accept all the same' };
  if (decision)
    return (
      <p className="mt-2 border-l-4 border-doubt pl-3">
        Decided: {WORDS[decision.act].toLowerCase()}, because {decision.reason}.
      </p>
    );
  if (!mayLead) return <p className="mt-2 text-quiet">A lead decides what follows.</p>;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <Label text="What follows, and why" className="min-w-72 flex-1">
        <Input
          className="min-h-11"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Label>
      {(Object.keys(WORDS) as (keyof typeof WORDS)[]).map((act) => (
        <Button
          key={act}
          className="min-h-11"
          onClick={() => enter([{ field: 'decision', value: { act, reason, planId } }])}
        >
          {WORDS[act]}
        </Button>
      ))}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
