'use client';

import { CABLE_LIMIT_C } from '@dusk-tally/core/bench';
import { StringPanel } from './string-panel';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Input, Label, TextArea } from '@/kit/form-parts';
import { cellNumbersOf, FRESH_STEP, judgeStep, numberOf, type StepDraft } from './string-draft';
import { CableResult, PackResult, StepResult, TorqueResult } from './string-results';
import { Choice, Option } from '@/kit/choice';
import { fieldsOf, type Test, type TestProps, useStringTest } from './use-string-test';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';

const STEP_FIELDS = [
  ['pct', 'State of charge / %'],
  ['lowA', 'First load / A'],
  ['highA', 'Second load / A'],
] as const;
const STEP_LISTS = [
  ['lowV', 'Cells at the first load / V', '3.280 3.281 3.279 …'],
  ['highV', 'Cells at the second load / V', '3.262 3.263 3.260 …'],
  ['jointC', 'Joints then / °C, in order, - for none', '24 24.5 25 …'],
] as const;

function StepFields({
  draft,
  names,
  onChange,
  onRemove,
}: {
  draft: StepDraft;
  names: readonly string[];
  onChange: (next: StepDraft) => void;
  onRemove: (() => void) | null;
}) {
  const { step, problem } = judgeStep(draft);
  return (
    <section className="panel p-4" aria-label={`Readings at ${draft.pct} %`}>
      <div className="grid gap-3 sm:grid-cols-3">
        {STEP_FIELDS.map(([name, words]) => (
          <Label key={name} text={words}>
            <NumberInput
              quantity={quantityOfHead(words)}
              text={draft[name]}
              onText={(next) => onChange({ ...draft, [name]: next })}
            />
          </Label>
        ))}
        {STEP_LISTS.map(([name, words, example]) => (
          <Label key={name} text={words}>
            <TextArea
              className="min-h-20 tabular-nums"
              placeholder={example}
              value={draft[name]}
              onChange={(event) => onChange({ ...draft, [name]: event.target.value })}
            />
          </Label>
        ))}
      </div>
      {problem && <Problem>{problem}</Problem>}
      {step && <StepResult step={step} names={names} />}
      {onRemove && (
        <Button look="bare" onClick={onRemove}>
          Leave this state of charge out
        </Button>
      )}
    </section>
  );
}

/** The string: its cells, its torque, its cable, and what of it is judged at once. */
function StringFields({ test, lots, view }: { test: Test } & Pick<TestProps, 'lots' | 'view'>) {
  const { draft, lot, setLot } = test;
  const { set, number } = fieldsOf(test);
  const chosen = lots.find(({ id }) => id === lot);
  const amps = Math.max(0, ...draft.steps.map(({ highA }) => numberOf(highA) || 0));
  return (
    <section className="panel p-4" aria-label="The string">
      <div className="grid gap-3 sm:grid-cols-4">
        <Label text="Name">
          <Input placeholder="String of eight, shelf 2" {...set('title')} />
        </Label>
        <Label text="Lot, if no cell is given">
          <Choice value={lot} onValue={(next) => setLot(Number(next))}>
            {lots.map(({ id, code, title }) => (
              <Option key={id} value={id}>
                {code}: {title}
              </Option>
            ))}
          </Choice>
        </Label>
        <Label
          text="Numbers of its cells, in order from the positive end"
          className="block sm:col-span-2"
        >
          <TextArea
            className="min-h-10 tabular-nums"
            placeholder="B-0101 B-0102 …; empty where they are not known"
            {...set('cells')}
          />
        </Label>
        <Label text="Torque of the terminals / N·m">
          <NumberInput quantity="torqueNm" {...number('torqueNm')} />
        </Label>
        <Label text="Cable, copper / mm²">
          <NumberInput quantity="areaMm2" {...number('cableMm2')} />
        </Label>
        <Label text="Cable, one way / m">
          <NumberInput quantity="cableM" {...number('cableM')} />
        </Label>
      </div>
      <TorqueResult nm={numberOf(draft.torqueNm)} modelNm={chosen?.torqueNm ?? null} />
      <CableResult mm2={numberOf(draft.cableMm2)} metres={numberOf(draft.cableM)} amps={amps} />
      {view?.stood && (
        <p className="mt-2">
          The highest load it stood with no joint hot: {view.stood.amps} A,{' '}
          {view.stood.it.toFixed(2)} It.
        </p>
      )}
    </section>
  );
}

/** The whole pack discharged to its protection’s cut-off. */
function PackFields({ test, view }: { test: Test } & Pick<TestProps, 'view'>) {
  const { draft } = test;
  const { number } = fieldsOf(test);
  const hasCells = cellNumbersOf(draft.cells).length > 0;
  return (
    <section className="panel p-4" aria-label="The pack to its cut-off">
      <h2 className="font-semibold">The pack to its protection’s cut-off</h2>
      <div className="mt-2 grid gap-3 sm:grid-cols-3">
        <Label text="Capacity / Ah">
          <NumberInput quantity="capacityAh" {...number('packAh')} />
        </Label>
        <Label text="Its standard uncertainty / Ah">
          <NumberInput quantity="capacityAh" {...number('packAhU')} />
        </Label>
        <Label text="Moved by balancing / Ah">
          <NumberInput quantity="capacityAh" {...number('balancedAh')} />
        </Label>
      </div>
      {numberOf(draft.packAh) > 0 && (
        <PackResult pack={view?.pack ?? null} complete={hasCells && view !== null} />
      )}
    </section>
  );
}

/** A load test of cells in series: readings at two loads and one or several states of charge. */
export function StringTestForm(props: TestProps) {
  const { view, logged } = props;
  const test = useStringTest(props);
  const { draft, keep, save, begin, busy, problem } = test;
  const names = cellNumbersOf(draft.cells);
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <p className="max-w-[85ch]">
        Torque first, as the data sheet says. Step the load, read each cell on its own terminals at
        both currents, and the temperature of terminals and bars at the higher one. Joints and
        cables heat first: stop at a cable of {CABLE_LIMIT_C} °C. Local codes and a licensed
        practitioner come first.
      </p>
      <StringFields test={test} lots={props.lots} view={view} />
      {logged && <StringPanel string={logged} names={names} />}
      {!(logged && draft.steps.length === 1 && draft.steps[0] === FRESH_STEP) &&
        draft.steps.map((step, i) => (
          <StepFields
            key={i}
            draft={step}
            names={names}
            onChange={(next) =>
              keep({ ...draft, steps: draft.steps.map((one, k) => (k === i ? next : one)) })
            }
            onRemove={
              draft.steps.length > 1
                ? () => keep({ ...draft, steps: draft.steps.filter((_, k) => k !== i) })
                : null
            }
          />
        ))}
      <PackFields test={test} view={view} />
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="primary" disabled={busy}>
          {view ? 'Store changes' : 'Store load test'}
        </Button>
        <Button
          onClick={() => keep({ ...draft, steps: [...draft.steps, { ...FRESH_STEP, pct: '40' }] })}
        >
          Another state of charge
        </Button>
        <Button look="bare" onClick={begin}>
          {view ? 'As stored' : 'Begin again'}
        </Button>
      </div>
    </form>
  );
}
