'use client';

import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import type { NoteView } from '@dusk-tally/lab/records';
import { useState } from 'react';
import { say } from '@/kit/say';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import {
  ChoiceField,
  DayField,
  LinesField,
  NumberField,
  TextField,
  TickField,
} from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabDay } from '@/kit/lab-time';
import { CurrencyFields, useTypedCurrency } from '@/kit/form/currency-fields';
import { Over } from '@/kit/panel-over';
import { AT_ONCE, offerUndoOf } from '@/kit/undo-toast';
import { addEarlierLotAct, addSupplierNoteAct, setTargetAct, takeBackEarlierLotAct } from './acts';

function EarlierLotForm({
  supplierId,
  currency,
  done,
}: {
  supplierId: number;
  currency: string;
  done: () => void;
}) {
  const form = useLabForm({
    schema: 'earlierLotInput',
    first: {
      supplierId,
      title: '',
      model: '',
      chemistry: null,
      arrivedOn: '',
      cells: null,
      judged: null,
      met: null,
      marginPct: null,
      dead: null,
      ageMonths: null,
      copies: null,
      daysToDeliver: null,
      claimedKwh: null,
      goodKwh: null,
      landed: null,
      currency: '',
      rate: null,
      rateOn: null,
      disputeOutcome: '',
    },
    act: addEarlierLotAct,
    keepAs: `earlier lot ${supplierId}`,
    done: ({ id }) => {
      offerUndoOf('It counts in the record now.', () =>
        takeBackEarlierLotAct({ id, reason: AT_ONCE }),
      );
      done();
    },
  });
  const numbers = [
    ['cells', 'Cells'],
    ['judged', 'Cells tested against the claim'],
    ['met', 'of them met it'],
    ['marginPct', 'Mean capacity over claim / %'],
    ['dead', 'Dead or dangerous on arrival'],
    ['ageMonths', 'Age on arrival / months'],
    ['copies', 'Codes on another cell too'],
    ['daysToDeliver', 'Days from order to arrival'],
    ['claimedKwh', 'Claimed / kWh'],
    ['goodKwh', 'In good cells / kWh'],
  ] as const;
  return (
    <Form of={form} label="A lot from before" act="Keep it">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField name="title" label="Short name" />
        <TextField name="model" label="Model" />
        <ChoiceField name="chemistry" label="Chemistry">
          <Option value="">not known</Option>
          {CHEMISTRIES.map((one) => (
            <Option key={one} value={one}>
              {one}
            </Option>
          ))}
        </ChoiceField>
        <DayField name="arrivedOn" label="Arrived on" />
      </div>
      <div className="grid items-end gap-3 sm:grid-cols-3">
        {numbers.map(([name, label]) => (
          <NumberField key={name} name={name} label={label} quantity="plain" />
        ))}
        <LandedField house={currency} />
      </div>
      <TextField name="disputeOutcome" label="Dispute, and how it ended (empty: none)" />
    </Form>
  );
}

/** What it cost, in the currency it was paid in. */
function LandedField({ house }: { house: string }) {
  const currency = useTypedCurrency(house);
  return (
    <>
      <NumberField name="landed" label={`Landed cost / ${currency}`} quantity="money" />
      <CurrencyFields house={house} />
    </>
  );
}

/** Brings in a lot the lab had before it used the app. */
export function AddEarlierLot({ supplierId, currency }: { supplierId: number; currency: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>A lot from before …</Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={640}
        title="A lot from before"
        says="As its own papers tell it. It counts in the record, marked as not tested here."
      >
        <EarlierLotForm supplierId={supplierId} currency={currency} done={() => setOpen(false)} />
      </Over>
    </>
  );
}

/** What is said of a supplier: own notes, and hearsay that counts nowhere. */
export function SupplierNotes({ supplierId, said }: { supplierId: number; said: NoteView[] }) {
  const form = useLabForm({
    schema: 'supplierNoteInput',
    first: { supplierId, isHearsay: true, text: '', source: '' },
    act: addSupplierNoteAct,
    done: () => form.form.reset({ supplierId, isHearsay: true, text: '', source: '' }),
  });
  return (
    <section className="panel p-4" aria-label="Notes">
      <h2 className="font-semibold">Notes</h2>
      <ul className="my-2 space-y-2">
        {said.map(({ id, isHearsay, text, source, who, at }) => (
          <li key={id} className={isHearsay ? 'border-l-2 border-doubt pl-3' : ''}>
            <p className="whitespace-pre-line">{text}</p>
            <p className="text-[0.85rem] text-quiet">
              {isHearsay && <strong className="text-doubt">Hearsay, counted nowhere. </strong>}
              {source && `${source}. `}
              {who}, <LabDay at={at} />
            </p>
          </li>
        ))}
      </ul>
      <Form of={form} label="A note" act="Keep the note" look="plain">
        <LinesField name="text" label="What was said or seen" />
        <div className="flex flex-wrap items-end gap-3">
          <TextField name="source" label="By whom" className="min-w-0 flex-1 basis-52" />
          <TickField name="isHearsay" label="Hearsay: others say so" className="min-h-9" />
        </div>
      </Form>
    </section>
  );
}

/** What a kWh in good cells is to cost: offers are held against it. */
export function TargetForm({ cents, currency }: { cents: number | null; currency: string }) {
  const form = useLabForm({
    schema: 'targetInput',
    first: { perKwh: cents === null ? null : cents / 100, reason: '' },
    act: setTargetAct,
    done: () => say('Offers are held against it now.'),
  });
  return (
    <Form
      of={form}
      label="What a good kWh is to cost"
      act="Keep the target"
      look="plain"
      className="flex flex-wrap items-end gap-3"
    >
      <NumberField
        name="perKwh"
        quantity="money"
        label={`Target, a good kWh / ${currency}`}
        className="w-52"
      />
      <TextField name="reason" label="Why" className="min-w-0 flex-1 basis-52" />
    </Form>
  );
}
