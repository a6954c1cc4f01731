'use client';

import type { ParallelChargeView } from '@dusk-tally/lab/bench';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Label } from '@/kit/form-parts';
import { useAct } from '@/kit/use-act';
import { beginParallelChargeAct, endParallelChargeAct } from './bench-acts';
import { lengthOf } from './words';
import { LabMoment, useMomentField } from '@/kit/lab-time';
import { Choice, Option } from '@/kit/choice';
import { MomentField } from '@/kit/date-field';
import { Tick } from '@/kit/tick';
import { NumberInput } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

const numberOf = (text: string) => typedNumber(text) ?? NaN;

function Bank({ bank }: { bank: ParallelChargeView }) {
  const { run, busy, problem } = useAct();
  const { toField, fromField } = useMomentField();
  const [fullAt, setFullAt] = useState(() => toField(new Date()));
  return (
    <li className="panel p-4">
      <p>
        <strong>
          {bank.cells} cells of {bank.ratedAh} Ah
        </strong>{' '}
        from {Math.round(bank.fromSoc * 100)} % on {bank.supplyA} A, since{' '}
        <LabMoment at={bank.startedAt} />. Full after {bank.leastHours.toFixed(1)} h at the
        earliest.
      </p>
      {bank.judged ? (
        <p
          className={`mt-1 ${bank.judged.tooEarly ? 'border-l-4 border-missed pl-3 font-semibold' : 'text-quiet'}`}
        >
          {bank.judged.sentence}
        </p>
      ) : (
        <form
          className="mt-2 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            run((key) => endParallelChargeAct({ id: bank.id, fullAt: fromField(fullAt) }, key));
          }}
        >
          <Label text="Full at">
            <MomentField label="Full at" value={fullAt} onValue={(next) => setFullAt(next)} />
          </Label>
          <Button type="submit" disabled={busy}>
            It is full
          </Button>
          <span className="pb-2 text-quiet">
            At least{' '}
            {lengthOf(
              Math.max(
                0,
                bank.leastHours * 3600 - (Date.now() - new Date(bank.startedAt).getTime()) / 1000,
              ),
            )}{' '}
            to go, if the claim is right.
          </span>
          {problem && <Problem>{problem}</Problem>}
        </form>
      )}
    </li>
  );
}

/** Cells charged in parallel on one supply: keeps the time, and says when they are full too early. */
export function ParallelView({
  lots,
  lotId,
  banks,
}: {
  lots: readonly { id: number; code: string; title: string }[];
  lotId: number;
  banks: readonly ParallelChargeView[];
}) {
  const router = useRouter();
  const { toField, fromField } = useMomentField();
  const { run, busy, problem } = useAct();
  const [form, setForm] = useState({
    cells: '4',
    fromPct: '30',
    supplyA: '10',
    startedAt: toField(new Date()),
  });
  const [equal, setEqual] = useState(false);
  return (
    <div className="space-y-4">
      <section className="panel p-4">
        <p className="max-w-[80ch]">
          What a supply puts in cannot exceed its current times the time. A bank that is full much
          too early cannot hold what it claims, and that shows days before a discharge proves it.
        </p>
        <form
          className="mt-3 grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-6"
          onSubmit={(event) => {
            event.preventDefault();
            run((key) =>
              beginParallelChargeAct(
                {
                  lotId,
                  cells: numberOf(form.cells),
                  fromSoc: numberOf(form.fromPct) / 100,
                  supplyA: numberOf(form.supplyA),
                  startedAt: fromField(form.startedAt),
                  voltagesEqual: equal as true,
                },
                key,
              ),
            );
          }}
        >
          <Label text="Lot">
            <Choice value={lotId} onValue={(next) => router.push(`/bench/parallel?lot=${next}`)}>
              {lots.map(({ id, code, title }) => (
                <Option key={id} value={id}>
                  {code}: {title}
                </Option>
              ))}
            </Choice>
          </Label>
          <Label text="Cells">
            <NumberInput
              quantity="count"
              text={form.cells}
              onText={(cells) => setForm({ ...form, cells })}
            />
          </Label>
          <Label text="Charged already / %">
            <NumberInput
              quantity="percent"
              text={form.fromPct}
              onText={(fromPct) => setForm({ ...form, fromPct })}
            />
          </Label>
          <Label text="Supply / A">
            <NumberInput
              quantity="currentA"
              text={form.supplyA}
              onText={(supplyA) => setForm({ ...form, supplyA })}
            />
          </Label>
          <Label text="Started at">
            <MomentField
              label="Started"
              value={form.startedAt}
              onValue={(startedAt) => setForm({ ...form, startedAt })}
            />
          </Label>
          <Button type="submit" look="primary" disabled={busy || !equal}>
            Keep time
          </Button>
          <Tick checked={equal} onChecked={(on) => setEqual(on)} className="sm:col-span-full">
            Voltages were equal before the cells were joined; what is not worked on is covered;
            tools are insulated
          </Tick>
        </form>
        {problem && <Problem>{problem}</Problem>}
      </section>
      <ul className="space-y-2">
        {banks.map((bank) => (
          <Bank key={`${bank.id}-${String(bank.fullAt)}`} bank={bank} />
        ))}
      </ul>
    </div>
  );
}
