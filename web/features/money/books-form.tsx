'use client';

import type { LotBooks } from '@dusk-tally/lab/money';
import { useFormContext, useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { DayField, NumberField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { keepBooksAct } from './acts';

/** Minutes the times of acts tell of, offered where somebody typed others or none. */
function ProposedMinutes({ minutes }: { minutes: number }) {
  const { setValue } = useFormContext();
  const typed = useWatch({ name: 'minutes' }) as number | null;
  if (minutes === 0 || typed === minutes) return null;
  return (
    <p className="text-[0.85rem] text-quiet">
      What was done here in the app took about {minutes} min.{' '}
      <Button
        look="bare"
        className="min-h-0 px-1 py-0 underline"
        onClick={() => setValue('minutes', minutes, { shouldDirty: true })}
      >
        Take that
      </Button>
    </p>
  );
}

/** What only people know of a lot’s money: own time, prices by grade, terms of the ways out. */
export function BooksForm({ lotId, books }: { lotId: number; books: LotBooks }) {
  const { currency, houseCurrency, values } = books;
  const form = useLabForm({
    schema: 'booksInput',
    first: {
      lotId,
      ...books.typed,
    },
    act: keepBooksAct,
    keepAs: `books ${lotId}`,
  });
  return (
    <Form of={form} label="What only you know" act="Keep">
      <div className="grid grid-cols-2 items-end gap-3">
        <NumberField name="minutes" quantity="plain" label="Own time / min" />
        <NumberField name="perMinute" quantity="money" label={`A minute costs / ${currency}`} />
        <NumberField name="linePct" quantity="plain" label="A cell is good from SoH / %" />
        <NumberField name="claimedCycles" quantity="plain" label="Cycles claimed" />
        <NumberField
          name="benchPerHour"
          quantity="money"
          label={`A channel’s hour / ${currency}`}
        />
        <NumberField name="perKwh" quantity="money" label={`A kWh from the wall / ${currency}`} />
        {currency !== houseCurrency && (
          <>
            <NumberField
              name="rate"
              quantity="plain"
              label={`1 ${currency} was worth / ${houseCurrency}`}
            />
            <DayField name="rateOn" label="on" />
          </>
        )}
      </div>
      <ProposedMinutes minutes={books.proposedMinutes} />
      <fieldset>
        <legend className="mb-1 font-medium">A cell brings / {currency}</legend>
        <div className="grid grid-cols-3 gap-3">
          {values.map(({ grade }) => (
            <NumberField key={grade} name={`gradePrices.${grade}`} quantity="money" label={grade} />
          ))}
        </div>
      </fieldset>
      <fieldset>
        <legend className="mb-1 font-medium">Ways out / {currency}</legend>
        <div className="grid grid-cols-2 items-end gap-3">
          <NumberField name="refund" quantity="money" label="Refund on return (empty: all paid)" />
          <NumberField name="returnFreight" quantity="money" label="Return freight" />
          <NumberField name="packingMinutes" quantity="plain" label="Packing / min" />
          <NumberField name="returnDays" quantity="plain" label="Days until that refund is there" />
          <NumberField name="partialRefund" quantity="money" label="Partial refund offered" />
          <NumberField name="partialDays" quantity="plain" label="Days until it is there" />
          <NumberField
            name="replacement"
            quantity="money"
            label="Replacement brings (empty: none)"
          />
        </div>
        <div className="mt-2">
          <TickField name="asksTesting" label="The terms let us ask for what testing cost" />
        </div>
      </fieldset>
    </Form>
  );
}
