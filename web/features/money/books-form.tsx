'use client';

import { booksInput } from '@dusk-tally/lab/inputs';
import type { LotBooks } from '@dusk-tally/lab/money';
import { NumberField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { keepBooksAct } from './acts';

const amount = (cents: number | null) => (cents === null ? null : cents / 100);
const orNone = (cents: number) => (cents === 0 ? null : cents / 100);

/** What only people know of a lot’s money: own time, prices by grade, terms of the ways out. */
export function BooksForm({ lotId, books }: { lotId: number; books: LotBooks }) {
  const { kept, currency, values } = books;
  const form = useLabForm({
    schema: booksInput,
    first: {
      lotId,
      version: kept.version,
      minutes: kept.minutes || null,
      perMinute: orNone(kept.centsPerMinute),
      linePct: Number((100 * kept.line).toFixed(1)),
      gradePrices: Object.fromEntries(
        values.map(({ grade, priceCents }) => [grade, amount(priceCents)]),
      ),
      refund: amount(kept.refundCents),
      returnFreight: orNone(kept.returnFreightCents),
      packingMinutes: kept.packingMinutes || null,
      partialRefund: orNone(kept.partialRefundCents),
      replacement: amount(kept.replacementCents),
      asksTesting: kept.asksTesting,
    },
    act: keepBooksAct,
    keepAs: `books ${lotId}`,
  });
  return (
    <Form of={form} label="What only you know" act="Keep">
      <div className="grid grid-cols-2 gap-3">
        <NumberField name="minutes" quantity="plain" label="Own time / min" />
        <NumberField name="perMinute" quantity="plain" label={`A minute costs / ${currency}`} />
        <NumberField name="linePct" quantity="plain" label="A cell is good from SoH / %" />
      </div>
      <fieldset>
        <legend className="mb-1 font-medium">A cell brings / {currency}</legend>
        <div className="grid grid-cols-3 gap-3">
          {values.map(({ grade }) => (
            <NumberField key={grade} name={`gradePrices.${grade}`} quantity="plain" label={grade} />
          ))}
        </div>
      </fieldset>
      <fieldset>
        <legend className="mb-1 font-medium">Ways out / {currency}</legend>
        <div className="grid grid-cols-2 gap-3">
          <NumberField name="refund" quantity="plain" label="Refund on return (empty: all paid)" />
          <NumberField name="returnFreight" quantity="plain" label="Return freight" />
          <NumberField name="packingMinutes" quantity="plain" label="Packing / min" />
          <NumberField name="partialRefund" quantity="plain" label="Partial refund offered" />
          <NumberField
            name="replacement"
            quantity="plain"
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
