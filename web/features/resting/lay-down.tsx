'use client';

import { OFFERED_PROTOCOLS } from '@dusk-tally/core/resting';
import { restInput } from '@dusk-tally/lab/inputs';
import { useState } from 'react';
import { toast } from 'sonner';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, MomentInForm, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Over } from '@/kit/panel-over';
import { layToRestAct } from './acts';

/** The moment a form is opened at. */
const justNow = () => new Date().toISOString();

/** What a protocol waits for and what it says, in a line. */
const PROTOCOL_SAYS: Readonly<Record<string, string>> = {
  careful: '4.2 V class: 7 days at least, better 14; 4.10 V keep, below 4.00 V rejected',
  'two-look': '4.2 V class: 7 days, 4.05 V keep; else a capacity test and 14 days more',
  'against the lot': 'flat chemistries: 14 days; who loses faster than the lot is named',
};

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
    reason: '',
  }));
  const form = useLabForm({
    schema: restInput,
    first,
    act: layToRestAct,
    done: ({ laid }) => {
      toast(`${laid} ${laid === 1 ? 'cell' : 'cells'} on the shelf.`);
      done();
    },
  });
  return (
    <Form of={form} label="Lay to rest" act="Lay them down">
      <ChoiceField name="protocol" label="Protocol">
        {OFFERED_PROTOCOLS.map(({ name }) => (
          <Option key={name} value={name}>
            {name}: {PROTOCOL_SAYS[name]}
          </Option>
        ))}
      </ChoiceField>
      <MomentInForm name="fullAt" label="Their charge ended" />
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
