'use client';

import type { TypedQuantity } from '@dusk-tally/core/units';
import { useWatch } from 'react-hook-form';
import { Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';
import { CurrencyFields, useTypedCurrency } from '@/kit/form/currency-fields';
import { ChoiceField, KnownField, TextField, useField } from '@/kit/form/fields';
import { Label } from '@/kit/form-parts';
import { NumberInput } from '@/kit/quantity-field';
import { COSTS } from './lot-draft';

/** A number as it is typed: it is read when the lot is taken in. */
function TypedField({
  name,
  label,
  quantity,
  placeholder,
}: {
  name: string;
  label: string;
  quantity: TypedQuantity;
  placeholder?: string;
}) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem}>
      <NumberInput
        quantity={quantity}
        text={String(field.value)}
        onText={field.onChange}
        onBlur={field.onBlur}
        placeholder={placeholder}
      />
    </Label>
  );
}

/** A day as it is typed, or the one that stands in for it. */
function TypedDay({ name, label, otherwise }: { name: string; label: string; otherwise: string }) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem}>
      <DateField
        value={(field.value as string | null) ?? otherwise}
        onValue={(day) => field.onChange(day)}
      />
    </Label>
  );
}

/** What was ordered and what came: name, supplier, counts, days. */
export function LotOrderFields({
  suppliers,
  today,
}: {
  suppliers: readonly string[];
  today: string;
}) {
  const isPacks = useWatch({ name: 'takenAs' }) === 'packs';
  return (
    <div className="grid items-end gap-3 sm:grid-cols-4">
      <TextField name="title" label="Short name" autoFocus />
      <KnownField name="supplierName" label="Supplier" known={suppliers} />
      <ChoiceField name="takenAs" label="It comes as">
        <Option value="cells">single cells</Option>
        <Option value="packs">packs to break down</Option>
      </ChoiceField>
      <TypedField
        name="orderedQuantity"
        label={isPacks ? 'Packs ordered' : 'Ordered'}
        quantity="count"
      />
      {!isPacks && (
        <TypedField
          name="quantity"
          label="Cells counted"
          quantity="count"
          placeholder="count on arrival"
        />
      )}
      <TypedDay name="orderedOn" label="Ordered on" otherwise="" />
      <TypedDay name="arrivedOn" label="Arrived on" otherwise={today} />
    </div>
  );
}

/** What was paid. */
export function LotCostFields({ house }: { house: string }) {
  const currency = useTypedCurrency(house);
  return (
    <div className="mt-3 grid gap-3 sm:grid-cols-5">
      {COSTS.map(([name, words]) =>
        name === 'discount' ? (
          <TextField key={name} name={name} label={`${words} / ${currency}`} placeholder="or 4 %" />
        ) : (
          <TypedField key={name} name={name} label={`${words} / ${currency}`} quantity="money" />
        ),
      )}
      <CurrencyFields house={house} elseToday />
    </div>
  );
}
