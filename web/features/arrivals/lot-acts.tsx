'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import {
  cancelLotAct,
  changeLotModelAct,
  changeOrderAct,
  previewModelAct,
  resumeLotAct,
} from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Fold } from '@/kit/fold';
import { DateField } from '@/kit/date-field';

interface OrderRow {
  id: number;
  version: number;
  title: string;
  orderedOn: string | null;
  arrivedOn: string | null;
  orderedQuantity: number | null;
  price: string | null;
  discount: string | null;
  freight: string | null;
  duty: string | null;
  fees: string | null;
  cancelReason: string | null;
  cancelledAt: Date | null;
}

const AMOUNTS = [
  ['price', 'Price'],
  ['discount', 'Discount'],
  ['freight', 'Freight'],
  ['duty', 'Duty'],
  ['fees', 'Payment fees'],
] as const;

/** What the order says, to be put right. */
export function OrderEditor({ lot, currency }: { lot: OrderRow; currency: string }) {
  const [draft, setDraft] = useState({
    title: lot.title,
    orderedOn: lot.orderedOn ?? '',
    arrivedOn: lot.arrivedOn ?? '',
    orderedQuantity: lot.orderedQuantity === null ? '' : String(lot.orderedQuantity),
    ...Object.fromEntries(AMOUNTS.map(([name]) => [name, lot[name] ?? ''])),
  } as Record<string, string>);
  const { run, busy, problem, setProblem } = useAct();
  const save = () => {
    const ordered = typedNumber(draft.orderedQuantity!, 'count');
    if (Number.isNaN(ordered))
      return setProblem(`Ordered: expected a whole number; found “${draft.orderedQuantity}”.`);
    const amounts: Partial<Record<(typeof AMOUNTS)[number][0], number | null>> = {};
    for (const [name, words] of AMOUNTS) {
      const amount = typedNumber(draft[name]!, 'money');
      if (Number.isNaN(amount))
        return setProblem(`${words}: expected an amount; found “${draft[name]}”.`);
      amounts[name] = amount;
    }
    run(() =>
      changeOrderAct({
        lotId: lot.id,
        version: lot.version,
        title: draft.title!,
        orderedOn: draft.orderedOn || null,
        arrivedOn: draft.arrivedOn || null,
        orderedQuantity: ordered,
        ...amounts,
      }),
    );
  };
  const set = (name: string) => (text: string) => setDraft({ ...draft, [name]: text });
  const field = (name: string, words: string) => (
    <Label key={name} text={words}>
      <Input value={draft[name]} onChange={(event) => set(name)(event.target.value)} />
    </Label>
  );
  const day = (name: string, words: string) => (
    <Label key={name} text={words}>
      <DateField value={draft[name]!} onValue={set(name)} />
    </Label>
  );
  return (
    <Fold className="panel p-4" title="The order">
      <form
        className="mt-3 space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-4">
          {field('title', 'Short name')}
          {day('orderedOn', 'Ordered on')}
          {day('arrivedOn', 'Arrived on')}
          {field('orderedQuantity', 'Ordered')}
          {AMOUNTS.map(([name, words]) => field(name, `${words} / ${currency}`))}
        </div>
        {problem && <Problem>{problem}</Problem>}
        <Button type="submit" disabled={busy}>
          Keep the order
        </Button>
      </form>
    </Fold>
  );
}

/** Takes the lot as another model; what that invalidates is shown before anything changes. */
export function ModelChanger({
  lot,
  modelId,
  models,
}: {
  lot: Pick<OrderRow, 'id' | 'version'>;
  modelId: number;
  models: { id: number; name: string; chemistry: string }[];
}) {
  const [next, setNext] = useState('');
  const [consequences, setConsequences] = useState<string[] | null>(null);
  const [reason, setReason] = useState('');
  const { run, busy, problem, setProblem } = useAct();
  const preview = async (id: string) => {
    setNext(id);
    setConsequences(null);
    if (id === '') return;
    const outcome = await previewModelAct({ lotId: lot.id, modelId: Number(id) });
    if (outcome.ok) setConsequences(outcome.data.consequences);
    else setProblem(outcome.message);
  };
  return (
    <Fold className="panel p-4" title="Taken as the wrong model">
      <Label text="It is in truth" className="mt-3 block">
        <Choice className="max-w-md" value={next} onValue={(next) => void preview(next)}>
          <Option value="">choose the model …</Option>
          {models
            .filter((model) => model.id !== modelId)
            .map((model) => (
              <Option key={model.id} value={model.id}>
                {model.name}, {model.chemistry}
              </Option>
            ))}
        </Choice>
      </Label>
      {consequences && (
        <form
          className="mt-3 space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            run(
              () =>
                changeLotModelAct({
                  lotId: lot.id,
                  version: lot.version,
                  modelId: Number(next),
                  accepted: consequences,
                  reason,
                }),
              () => {
                setNext('');
                setConsequences(null);
                setReason('');
              },
            );
          }}
        >
          <div className="rounded-sm border-2 border-doubt bg-wash p-3" data-testid="consequences">
            <p className="font-medium">
              {consequences.length === 0
                ? 'Nothing entered so far hangs on the model.'
                : 'This would follow:'}
            </p>
            <ul className="list-disc pl-5">
              {consequences.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          </div>
          <Label text="Why">
            <Input
              className="max-w-md"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </Label>
          <Button type="submit" disabled={busy}>
            Change the model
          </Button>
        </form>
      )}
      {problem && <Problem>{problem}</Problem>}
    </Fold>
  );
}

/** Calls a lot off half way; its records stay. */
export function LotEnder({ lot }: { lot: Pick<OrderRow, 'id' | 'version'> }) {
  const [reason, setReason] = useState('');
  const { run, busy, problem } = useAct();
  return (
    <Fold className="panel p-4" title="Call the lot off">
      <form
        className="mt-3 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          run(() => cancelLotAct({ lotId: lot.id, version: lot.version, reason }));
        }}
      >
        <Label
          text="Why; everything recorded stays, nothing more can be entered"
          className="min-w-72 flex-1"
        >
          <Input value={reason} onChange={(event) => setReason(event.target.value)} />
        </Label>
        <Button type="submit" disabled={busy}>
          Call it off
        </Button>
      </form>
      {problem && <Problem>{problem}</Problem>}
    </Fold>
  );
}

/** Says that a lot was called off, and takes it up again. */
export function CalledOff({
  lot,
  mayLead,
}: {
  lot: Pick<OrderRow, 'id' | 'version' | 'cancelReason'>;
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  return (
    <div
      role="status"
      className="mb-3 flex flex-wrap items-center justify-between gap-3 border-l-4 border-doubt bg-wash px-3 py-2"
    >
      <span>
        This lot was called off: {lot.cancelReason}. Its records stay; nothing more can be entered.
      </span>
      {mayLead && (
        <Button
          disabled={busy}
          onClick={() => run(() => resumeLotAct({ lotId: lot.id, version: lot.version }))}
        >
          Take it up again
        </Button>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
