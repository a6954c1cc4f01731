'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { cancelLotAct, changeLotModelAct, previewModelAct, resumeLotAct } from './arrival-acts';
import { useAct } from '@/kit/use-act';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Fold } from '@/kit/fold';

interface OrderRow {
  id: number;
  version: number;
  cancelReason: string | null;
  cancelledAt: Date | null;
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
              (key) =>
                changeLotModelAct(
                  {
                    lotId: lot.id,
                    version: lot.version,
                    modelId: Number(next),
                    accepted: consequences,
                    reason,
                  },
                  key,
                ),
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
          run((key) => cancelLotAct({ lotId: lot.id, version: lot.version, reason }, key));
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
        This lot was called off: {lot.cancelReason?.replace(/\.+$/, '')}. Its records stay; nothing
        more can be entered.
      </span>
      {mayLead && (
        <Button
          disabled={busy}
          onClick={() => run((key) => resumeLotAct({ lotId: lot.id, version: lot.version }, key))}
        >
          Take it up again
        </Button>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
