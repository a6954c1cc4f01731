'use client';

import { SHIPPED_PROTOCOLS } from '@dusk-tally/core/resting';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, MomentInForm, TextField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Over } from '@/kit/panel-over';
import { AT_ONCE, offerUndoOf } from '@/kit/undo-toast';
import { layToRestAct, offeredProtocolsAct, takeFromShelfAct } from './acts';
import { protocolWords } from './protocol-words';

/** The moment a form is opened at. */
const justNow = () => new Date().toISOString();

/** When all of them were full, where their runs do not say it. */
function FullAt() {
  return useWatch({ name: 'fromRun' }) ? null : (
    <MomentInForm name="fullAt" label="Their charge ended" />
  );
}

function RestForm({
  lotId,
  cellIds,
  flat,
  done,
}: {
  lotId: number;
  cellIds: number[];
  flat: boolean;
  done: () => void;
}) {
  const [first] = useState(() => ({
    lotId,
    cellIds,
    protocol: flat ? 'against the lot' : 'careful',
    fullAt: justNow(),
    fromRun: false,
    reason: '',
  }));
  const { data: protocols } = useQuery({
    queryKey: ['rest protocols'],
    queryFn: () => offeredProtocolsAct(),
    initialData: [...SHIPPED_PROTOCOLS],
    initialDataUpdatedAt: 0,
  });
  const form = useLabForm({
    schema: 'restInput',
    first,
    act: layToRestAct,
    done: ({ laid, restIds }) => {
      offerUndoOf(`${laid} ${laid === 1 ? 'cell' : 'cells'} on the shelf.`, () =>
        takeFromShelfAct({ restIds, reason: AT_ONCE }),
      );
      done();
    },
  });
  return (
    <Form of={form} label="Lay to rest" act="Lay them down">
      <ChoiceField name="protocol" label="Protocol">
        {protocols.map((protocol) => (
          <Option key={protocol.name} value={protocol.name}>
            {protocol.name}: {protocolWords(protocol)}
          </Option>
        ))}
      </ChoiceField>
      <TickField
        name="fromRun"
        label="Full when the last run of each of them ended its charge"
        yes
        no={false}
      />
      <FullAt />
      <TextField name="reason" label="Why once more, from the third look on" />
    </Form>
  );
}

/** Lays chosen cells of a lot on the shelf. */
export function LayDown({
  lotId,
  cellIds,
  flat,
  done,
}: {
  lotId: number;
  cellIds: number[];
  /** Volts after full charge say little of this chemistry. */
  flat: boolean;
  done: () => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Lay to rest …</Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={620}
        title={`Lay ${cellIds.length} ${cellIds.length === 1 ? 'cell' : 'cells'} to rest`}
        says="Charged full, they stand open-circuit and are read on their day. Apart, terminals covered, nothing flammable near."
      >
        {open && (
          <RestForm
            lotId={lotId}
            cellIds={cellIds}
            flat={flat}
            done={() => {
              setOpen(false);
              done();
            }}
          />
        )}
      </Over>
    </>
  );
}
