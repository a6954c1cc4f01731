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
    const ordered = typedNumber(draft.orderedQuantity!);
    if (Number.isNaN(ordered))
      return setProblem(`Ordered: expected a whole number; found “${draft.orderedQuantity}”.`);
    const amounts: Partial<Record<(typeof AMOUNTS)[number][0], number | null>> = {};
    for (const [name, words] of AMOUNTS) {
      const amount = typedNumber(draft[name]!);
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
  const field = (name: string, words: string, type = 'text') => (
    <label key={name}>
      <span className="mb-1 block text-quiet">{words}</span>
      <input
        className="field"
        type={type}
        value={draft[name]}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <details className="panel p-4">
      <summary className="cursor-pointer font-semibold">The order</summary>
      <form
        className="mt-3 space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-4">
          {field('title', 'Short name')}
          {field('orderedOn', 'Ordered on', 'date')}
          {field('arrivedOn', 'Arrived on', 'date')}
          {field('orderedQuantity', 'Ordered')}
          {AMOUNTS.map(([name, words]) => field(name, `${words} / ${currency}`))}
        </div>
        {problem && <Problem>{problem}</Problem>}
        <Button type="submit" disabled={busy}>
          Keep the order
        </Button>
      </form>
    </details>
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
    <details className="panel p-4">
      <summary className="cursor-pointer font-semibold">Taken as the wrong model</summary>
      <label className="mt-3 block">
        <span className="mb-1 block text-quiet">It is in truth</span>
        <select
          className="field max-w-md"
          value={next}
          onChange={(event) => void preview(event.target.value)}
        >
          <option value="">choose the model …</option>
          {models
            .filter((model) => model.id !== modelId)
            .map((model) => (
              <option key={model.id} value={model.id}>
                {model.name}, {model.chemistry}
              </option>
            ))}
        </select>
      </label>
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
          <label className="block">
            <span className="mb-1 block text-quiet">Why</span>
            <input
              className="field max-w-md"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </label>
          <Button type="submit" disabled={busy}>
            Change the model
          </Button>
        </form>
      )}
      {problem && <Problem>{problem}</Problem>}
    </details>
  );
}

/** Calls a lot off half way; its records stay. */
export function LotEnder({ lot }: { lot: Pick<OrderRow, 'id' | 'version'> }) {
  const [reason, setReason] = useState('');
  const { run, busy, problem } = useAct();
  return (
    <details className="panel p-4">
      <summary className="cursor-pointer font-semibold">Call the lot off</summary>
      <form
        className="mt-3 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          run(() => cancelLotAct({ lotId: lot.id, version: lot.version, reason }));
        }}
      >
        <label className="min-w-72 flex-1">
          <span className="mb-1 block text-quiet">
            Why; everything recorded stays, nothing more can be entered
          </span>
          <input
            className="field"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
        </label>
        <Button type="submit" disabled={busy}>
          Call it off
        </Button>
      </form>
      {problem && <Problem>{problem}</Problem>}
    </details>
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
