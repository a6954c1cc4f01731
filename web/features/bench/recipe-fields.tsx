'use client';

import type { RecipeStep } from '@dusk-tally/core/bench';
import { Trash2 } from 'lucide-react';
import { Button } from '@/kit/button';
import { KIND_WORDS, KINDS, newStep } from './recipe-steps';
import { Choice, Option } from '@/kit/choice';
import { CurrentField, NumberField } from './recipe-numbers';

type Of<Kind extends RecipeStep['kind']> = Extract<RecipeStep, { kind: Kind }>;
interface Fields<Step extends RecipeStep> {
  step: Step;
  change: (step: RecipeStep) => void;
}

/** Where a charge or a discharge ends beside its voltage. */
function LimitFields({ step, change }: Fields<Of<'charge'> | Of<'discharge'>>) {
  return (
    <>
      <NumberField
        optional
        name="at most / h"
        value={step.maxHours}
        change={(maxHours) => change({ ...step, maxHours })}
      />
      <NumberField
        optional
        name="at most / Ah"
        value={step.limitAh}
        change={(limitAh) => change({ ...step, limitAh })}
      />
    </>
  );
}

function ChargeFields({ step, change }: Fields<Of<'charge'>>) {
  return (
    <>
      <CurrentField
        name="at"
        value={step.current}
        change={(current) => change({ ...step, current })}
      />
      <NumberField
        optional
        name="to / V"
        value={step.limitV}
        change={(limitV) => change({ ...step, limitV })}
      />
      <NumberField
        name="until / It"
        value={step.taperIt}
        change={(taperIt) => change({ ...step, taperIt: taperIt ?? NaN })}
      />
      <LimitFields step={step} change={change} />
    </>
  );
}

type Load = Of<'discharge'>['load'];
const FIRST_LOAD: Record<Load['by'], Load> = {
  current: { by: 'current', current: { in: 'claimRate' } },
  power: { by: 'power', watts: 20 },
  resistor: { by: 'resistor', ohm: 1 },
};

function LoadFields({ load, change }: { load: Load; change: (load: Load) => void }) {
  switch (load.by) {
    case 'current':
      return (
        <CurrentField
          name="at"
          value={load.current}
          change={(current) => change({ by: 'current', current })}
        />
      );
    case 'power':
      return (
        <NumberField
          name="W"
          value={load.watts}
          change={(watts) => change({ by: 'power', watts: watts ?? NaN })}
        />
      );
    case 'resistor':
      return (
        <NumberField
          name="Ω"
          value={load.ohm}
          change={(ohm) => change({ by: 'resistor', ohm: ohm ?? NaN })}
        />
      );
  }
}

function DischargeFields({ step, change }: Fields<Of<'discharge'>>) {
  return (
    <>
      <Choice
        label="Load"
        className="w-auto"
        value={step.load.by}
        onValue={(next) => change({ ...step, load: FIRST_LOAD[next as Load['by']] })}
      >
        <Option value="current">constant current</Option>
        <Option value="power">constant power</Option>
        <Option value="resistor">resistor</Option>
      </Choice>
      <LoadFields load={step.load} change={(load) => change({ ...step, load })} />
      <NumberField
        optional
        name="to / V"
        value={step.cutoffV}
        change={(cutoffV) => change({ ...step, cutoffV })}
      />
      <LimitFields step={step} change={change} />
    </>
  );
}

function PulseFields({ step, change }: Fields<Of<'pulse'>>) {
  return (
    <>
      <CurrentField
        name="first"
        value={step.first}
        change={(first) => change({ ...step, first })}
      />
      <NumberField
        name="for / s"
        value={step.firstS}
        change={(firstS) => change({ ...step, firstS: firstS ?? NaN })}
      />
      <CurrentField
        name="then"
        value={step.second}
        change={(second) => change({ ...step, second })}
      />
      <NumberField
        name="for / s"
        value={step.secondS}
        change={(secondS) => change({ ...step, secondS: secondS ?? NaN })}
      />
    </>
  );
}

function MeasureFields({ step, change }: Fields<Of<'measure'>>) {
  return (
    <Choice
      label="What is measured"
      className="w-auto"
      value={step.what}
      onValue={(next) => change({ ...step, what: next as typeof step.what })}
    >
      <Option value="acResistance">AC resistance</Option>
      <Option value="openCircuitVoltage">open-circuit voltage</Option>
      <Option value="mass">mass</Option>
      <Option value="temperature">surface temperature</Option>
      <Option value="torque">terminal torque</Option>
    </Choice>
  );
}

/** A block of steps that is repeated. */
function RepeatFields({ step, change }: Fields<Of<'repeat'>>) {
  return (
    <>
      <NumberField
        name="times"
        value={step.times}
        change={(times) => change({ ...step, times: times ?? NaN })}
      />
      <ol className="w-full space-y-1.5 border-l-2 border-rule pl-3">
        {step.steps.map((inner, i) => (
          <li key={i} className="flex flex-wrap items-center gap-2">
            <span className="font-medium">{KIND_WORDS[inner.kind]}</span>
            <StepFields
              step={inner}
              change={(next) =>
                change({ ...step, steps: step.steps.map((one, k) => (k === i ? next : one)) })
              }
            />
            <Button
              look="bare"
              aria-label={`Take step ${i + 1} out of the block`}
              onClick={() => change({ ...step, steps: step.steps.filter((_, k) => k !== i) })}
            >
              <Trash2 size={15} aria-hidden />
            </Button>
          </li>
        ))}
        <li>
          <Choice
            label="Add to the block"
            className="w-auto"
            value=""
            onValue={(next) =>
              next &&
              change({ ...step, steps: [...step.steps, newStep(next as RecipeStep['kind'])] })
            }
          >
            <Option value="">Add to the block …</Option>
            {KINDS.filter((kind) => kind !== 'repeat').map((kind) => (
              <Option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </Option>
            ))}
          </Choice>
        </li>
      </ol>
    </>
  );
}

/** The fields of one step of a recipe. */
export function StepFields({ step, change }: Fields<RecipeStep>) {
  switch (step.kind) {
    case 'charge':
      return <ChargeFields step={step} change={change} />;
    case 'rest':
      return (
        <NumberField
          name="minutes"
          value={step.minutes}
          change={(minutes) => change({ ...step, minutes: minutes ?? NaN })}
        />
      );
    case 'discharge':
      return <DischargeFields step={step} change={change} />;
    case 'pulse':
      return <PulseFields step={step} change={change} />;
    case 'measure':
      return <MeasureFields step={step} change={change} />;
    case 'toStorage':
      return (
        <CurrentField
          name="at"
          value={step.current}
          change={(current) => change({ ...step, current })}
        />
      );
    case 'repeat':
      return <RepeatFields step={step} change={change} />;
  }
}
