'use client';

import type { HistoryEntry } from '@dusk-tally/lab';
import { useMemo } from 'react';
import { Option } from '@/kit/choice';
import { Fold } from '@/kit/fold';
import { CurrencyFields, useTypedCurrency } from '@/kit/form/currency-fields';
import { ChoiceField, DayField, NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { History } from '@/kit/history';
import { changeOrderAct } from './arrival-acts';

const AMOUNTS = [
  ['price', 'Price'],
  ['discount', 'Discount'],
  ['freight', 'Freight'],
  ['duty', 'Duty'],
  ['fees', 'Payment fees'],
] as const;
const NAMES = {
  title: 'Short name',
  supplierId: 'Supplier',
  orderedOn: 'Ordered on',
  arrivedOn: 'Arrived on',
  orderedQuantity: 'Ordered',
  ...Object.fromEntries(AMOUNTS),
  currency: 'Currency',
};

export type Order = Omit<
  Parameters<typeof changeOrderAct>[0],
  'lotId' | 'reason' | 'rate' | 'rateOn'
>;

/** What was paid, in the currency it was paid in. */
function Amounts({ house }: { house: string }) {
  const currency = useTypedCurrency(house);
  return (
    <>
      {AMOUNTS.map(([name, words]) => (
        <NumberField key={name} name={name} quantity="money" label={`${words} / ${currency}`} />
      ))}
      <CurrencyFields house={house} />
    </>
  );
}

/** What the order says, to be put right with a reason; its history stands below. */
export function OrderEditor({
  lotId,
  order,
  house,
  suppliers,
  history,
}: {
  lotId: number;
  order: Order;
  house: string;
  suppliers: readonly { id: number; name: string }[];
  history: readonly HistoryEntry[];
}) {
  const first = useMemo(
    () => ({ ...order, rate: null, rateOn: null, lotId, reason: '' }),
    [order, lotId],
  );
  const form = useLabForm({
    schema: 'orderChange',
    first,
    act: changeOrderAct,
    keepAs: `order ${lotId}`,
  });
  return (
    <Fold className="panel p-4" title="The order, its name and its supplier">
      <Form of={form} act="Keep the order" look="plain" names={NAMES} className="mt-3 space-y-3">
        <div className="grid gap-3 sm:grid-cols-4">
          <TextField name="title" label={NAMES.title} />
          <ChoiceField name="supplierId" label={NAMES.supplierId} asNumber>
            {suppliers.map(({ id, name }) => (
              <Option key={id} value={id}>
                {name}
              </Option>
            ))}
          </ChoiceField>
          <DayField name="orderedOn" label={NAMES.orderedOn} />
          <DayField name="arrivedOn" label={NAMES.arrivedOn} />
          <NumberField name="orderedQuantity" quantity="count" label={NAMES.orderedQuantity} />
          <Amounts house={house} />
          <TextField name="reason" label="Why" className="sm:col-span-2" />
        </div>
        <p className="text-[0.85rem] text-quiet">
          Another day of arrival judges claims of age anew. Issued reports keep what they said.
        </p>
      </Form>
      <History entries={history} />
    </Fold>
  );
}
