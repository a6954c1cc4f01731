'use client';

import { SHIPPED_PROTOCOLS } from '@dusk-tally/core/resting';
import { useFetched } from '@/lib/use-fetched';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Option } from '@/kit/choice';
import { ChoiceField, MomentInForm, TextField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
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

/** When cells were full, and by which protocol they are to stand. */
export function RestForm({
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
  const { data: protocols } = useFetched({
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
