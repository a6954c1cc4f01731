'use client';

import {
  AQLS,
  type DescribedPlan,
  describePlan,
  type PlanRequest,
} from '@dusk-tally/core/arrivals';
import type { SampleView } from '@dusk-tally/lab/arrivals';
import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { drawPlanAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { AsnChart } from './asn-chart';
import { OcChart } from './oc-chart';
import { useAct } from '@/kit/use-act';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { OneOf } from '@/kit/one-of';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';
import { Drawn } from './sampling-drawn';

const METHODS = [
  ['all', 'All of them'],
  ['attributes', 'ISO 2859-1'],
  ['risk', 'By risk'],
  ['sequential', 'By risk, stopping early'],
] as const;

type Method = 'all' | 'attributes' | 'risk' | 'sequential';
type Level = 'I' | 'II' | 'III';
/** Below this many cells all of them are tested by default (handbook, chapter 1). */
const ALL_BELOW = 100;

/** How many to test, by which plan, and which: with what the plan can and cannot tell. */
export function SamplingStep({
  lotId,
  code,
  lotSize,
  sample,
  mayLead,
}: {
  lotId: number;
  code: string;
  lotSize: number;
  sample: SampleView | null;
  mayLead: boolean;
}) {
  return (
    <div className="space-y-5">
      {sample && <Drawn lotId={lotId} code={code} sample={sample} mayLead={mayLead} />}
      {lotSize > 0 ? (
        <PlanForm lotId={lotId} lotSize={lotSize} again={sample !== null} />
      ) : (
        <p className="panel p-4 text-quiet">
          Count the cells first; there is nothing to draw from.
        </p>
      )}
    </div>
  );
}

/** A plan as it is asked for, and what it can and cannot tell. */
function usePlan(lotSize: number) {
  const [method, setMethod] = useState<Method>(lotSize < ALL_BELOW ? 'all' : 'attributes');
  const [level, setLevel] = useState<Level>('II');
  const [aql, setAql] = useState('1.0');
  const [risk, setRisk] = useState({ good: '1', producer: '5', bad: '8', consumer: '10' });
  const draft = useMemo((): PlanRequest | string => {
    if (method === 'all') return { method };
    if (method === 'attributes') return { method, level, aql };
    const [goodPct, producerRiskPct, badPct, consumerRiskPct] = [
      risk.good,
      risk.producer,
      risk.bad,
      risk.consumer,
    ].map((text) => typedNumber(text) ?? NaN) as [number, number, number, number];
    if ([goodPct, producerRiskPct, badPct, consumerRiskPct].some(Number.isNaN))
      return 'Expected four percentages.';
    return { method, goodPct, producerRiskPct, badPct, consumerRiskPct };
  }, [method, level, aql, risk]);
  const plan = useMemo((): DescribedPlan | string => {
    if (typeof draft === 'string') return draft;
    try {
      return describePlan(lotSize, draft);
    } catch (error) {
      return (error as Error).message;
    }
  }, [draft, lotSize]);
  return { method, setMethod, level, setLevel, aql, setAql, risk, setRisk, draft, plan };
}

type Asked = ReturnType<typeof usePlan>;

const RISKS = [
  ['good', 'Good: short up to / %'],
  ['producer', 'turned away at most / %'],
  ['bad', 'Bad: short from / %'],
  ['consumer', 'taken at most / %'],
] as const;

/** What a plan of a kind is asked by. */
function PlanFields({ method, level, setLevel, aql, setAql, risk, setRisk }: Asked) {
  if (method === 'all') return null;
  if (method === 'risk' || method === 'sequential')
    return RISKS.map(([name, words]) => (
      <Label key={name} text={words}>
        <NumberInput
          quantity={quantityOfHead(words)}
          text={risk[name]}
          onText={(next) => setRisk({ ...risk, [name]: next })}
          className="w-28"
        />
      </Label>
    ));
  return (
    <>
      <Label text="Inspection level">
        <Choice className="w-28" value={level} onValue={(next) => setLevel(next as Level)}>
          {['I', 'II', 'III'].map((value) => (
            <Option key={value}>{value}</Option>
          ))}
        </Choice>
      </Label>
      <Label text="AQL / %">
        <Choice className="w-28" value={aql} onValue={(next) => setAql(next)}>
          {AQLS.map((value) => (
            <Option key={value}>{value}</Option>
          ))}
        </Choice>
      </Label>
    </>
  );
}

/** A plan in words and as its curve, or why it is none. */
function PlanTold({ plan, draft }: Pick<Asked, 'plan' | 'draft'>) {
  if (typeof plan === 'string') return <Problem>{plan}</Problem>;
  const method = typeof draft === 'string' ? null : draft.method;
  return (
    <>
      <p className="mt-3" data-testid="plan-words">
        {plan.words}
      </p>
      {method !== 'all' && (
        <OcChart
          curve={plan.curve}
          marks={
            typeof draft !== 'string' && (draft.method === 'risk' || draft.method === 'sequential')
              ? [draft.goodPct, draft.badPct]
              : []
          }
        />
      )}
      {plan.sequential && typeof draft !== 'string' && draft.method === 'sequential' && (
        <AsnChart plan={plan.sequential} marks={[draft.goodPct, draft.badPct]} />
      )}
    </>
  );
}

function PlanForm({ lotId, lotSize, again }: { lotId: number; lotSize: number; again: boolean }) {
  const asked = usePlan(lotSize);
  const { method, setMethod, draft, plan } = asked;
  const [seed, setSeed] = useState('');
  const [reason, setReason] = useState('');
  const { run, busy, problem, setProblem } = useAct();
  const draw = () => {
    if (typeof draft === 'string') return setProblem(draft);
    const typed = typedNumber(seed);
    if (Number.isNaN(typed) || (typed !== null && (!Number.isInteger(typed) || typed < 0)))
      return setProblem(`Seed: expected a whole number; found “${seed}”.`);
    const chosen = typed ?? crypto.getRandomValues(new Uint32Array(1))[0]!;
    run((key) => drawPlanAct({ lotId, plan: draft, seed: chosen, reason: reason || null }, key));
  };
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">{again ? 'Draw again' : 'How many to test'}</h2>
      <div className="mt-2">
        <OneOf label="Plan" value={method} onValue={setMethod} options={METHODS} />
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <PlanFields {...asked} />
      </div>
      <PlanTold plan={plan} draft={draft} />
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <Label text="Seed">
          <NumberInput
            quantity="count"
            text={seed}
            onText={(next) => setSeed(next)}
            className="w-40"
            placeholder="drawn, and kept"
          />
        </Label>
        {again && (
          <Label text="Why draw again" className="min-w-64 flex-1">
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Label>
        )}
        <Button
          look={again ? 'plain' : 'primary'}
          className="min-h-11"
          disabled={busy || typeof plan === 'string'}
          onClick={draw}
        >
          {method === 'all' ? 'Take them all' : 'Draw the sample'}
        </Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
