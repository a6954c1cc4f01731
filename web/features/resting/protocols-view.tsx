'use client';

import { REST_OUTCOMES, type RestProtocol } from '@dusk-tally/core/resting';
import { OTHERWISE } from '@dusk-tally/lab/inputs';
import type { OfferedProtocol } from '@dusk-tally/lab/resting';
import { useState } from 'react';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { say } from '@/kit/say';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabDay } from '@/kit/lab-time';
import { Over } from '@/kit/panel-over';
import { saveProtocolAct } from './acts';
import { protocolWords } from './protocol-words';

/** A look as its form holds it. */
function fieldsOf({ dueDays, toleranceDays, steps, otherwise }: RestProtocol['looks'][number]) {
  const at = (outcome: string) => steps.find((step) => step.outcome === outcome)?.atLeastV ?? null;
  return {
    dueDays,
    toleranceDays,
    keepV: at('keep') ?? at('nonCritical'),
    keepAs:
      at('keep') === null && at('nonCritical') !== null
        ? ('nonCritical' as const)
        : ('keep' as const),
    fastLossV: at('fastLoss'),
    otherwise: otherwise as (typeof OTHERWISE)[number],
  };
}

const SECOND = {
  dueDays: 14,
  toleranceDays: 1,
  keepV: null,
  keepAs: 'nonCritical' as const,
  fastLossV: null,
  otherwise: 'reject' as const,
};

/** The looks of a protocol: one, or two of which the second follows “looked at once more”. */
function Looks() {
  const { control } = useFormContext();
  const { fields, append, remove } = useFieldArray({ control, name: 'looks' });
  const judges = useWatch({ control, name: 'judges' }) as RestProtocol['judges'];
  return (
    <>
      {fields.map(({ id }, i) => (
        <fieldset key={id} className="grid gap-3 border-t border-rule pt-2 sm:grid-cols-3">
          <legend className="float-left w-full font-medium sm:col-span-full">
            {i === 0 ? 'The look' : 'The second look'}
          </legend>
          <NumberField name={`looks.${i}.dueDays`} quantity="plain" label="Due after / days" />
          <NumberField
            name={`looks.${i}.toleranceDays`}
            quantity="plain"
            label="Late after that by / days"
          />
          <ChoiceField name={`looks.${i}.otherwise`} label="Below all voltages">
            {OTHERWISE.map((one) => (
              <Option key={one} value={one}>
                {REST_OUTCOMES[one].words}
              </Option>
            ))}
          </ChoiceField>
          {judges === 'volts' && (
            <>
              <NumberField
                name={`looks.${i}.keepV`}
                quantity="voltageV"
                label="From this voltage on / V"
              />
              <ChoiceField name={`looks.${i}.keepAs`} label="it is">
                {(['keep', 'nonCritical'] as const).map((one) => (
                  <Option key={one} value={one}>
                    {REST_OUTCOMES[one].words}
                  </Option>
                ))}
              </ChoiceField>
              <NumberField
                name={`looks.${i}.fastLossV`}
                quantity="voltageV"
                label="Usable, fast loss, from / V"
              />
            </>
          )}
        </fieldset>
      ))}
      {fields.length === 1 ? (
        <Button onClick={() => append(SECOND)}>A second look</Button>
      ) : (
        <Button onClick={() => remove(1)}>One look only</Button>
      )}
    </>
  );
}

function ProtocolForm({ from, done }: { from: RestProtocol; done: () => void }) {
  const [first] = useState(() => ({
    name: from.name,
    judges: from.judges,
    looks: from.looks.map(fieldsOf),
    reason: '',
  }));
  const form = useLabForm({
    schema: 'restProtocolInput',
    first,
    act: saveProtocolAct,
    done: ({ version }) => {
      say(`Kept as version ${version}.`);
      done();
    },
  });
  return (
    <Form of={form} label="Rest protocol" act="Keep it">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField name="name" label="Name; another one makes a copy" />
        <ChoiceField name="judges" label="Goes by">
          <Option value="volts">volts and the lot, the worse counts</Option>
          <Option value="lot">the lot alone</Option>
        </ChoiceField>
      </div>
      <Looks />
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** All protocols, with their versions; a lead writes new ones. */
export function ProtocolsView({
  protocols,
  mayWrite,
}: {
  protocols: readonly OfferedProtocol[];
  mayWrite: boolean;
}) {
  const [open, setOpen] = useState<RestProtocol | null>(null);
  return (
    <>
      <ul className="space-y-3">
        {protocols.map(({ protocol, own }) => (
          <li key={protocol.name} className="panel flex flex-wrap justify-between gap-3 p-4">
            <div className="min-w-0 flex-1">
              <h2 className="font-semibold">
                {protocol.name}{' '}
                <span className="font-normal text-quiet">version {protocol.version}</span>
              </h2>
              <p className="max-w-[80ch]">{protocolWords(protocol)}.</p>
              {own && (
                <p className="text-quiet">
                  {own.by} on <LabDay at={own.at} />: {own.reason}
                </p>
              )}
            </div>
            {mayWrite && (
              <Button className="self-start" onClick={() => setOpen(protocol)}>
                Copy or change …
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Over
        open={open !== null}
        onOpen={(next) => !next && setOpen(null)}
        width={720}
        title="Rest protocol"
        says="Kept under the same name it is the new version of that; under another it is a copy."
      >
        {open && <ProtocolForm from={open} done={() => setOpen(null)} />}
      </Over>
    </>
  );
}
