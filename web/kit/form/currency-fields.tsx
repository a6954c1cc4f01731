'use client';

import { useWatch } from 'react-hook-form';
import { DayField, NumberField, TextField } from './fields';

/** The currency amounts of a form are typed in: the house’s where none is. */
export function useTypedCurrency(house: string): string {
  const typed = useWatch({ name: 'currency' }) as string | null | undefined;
  return typed?.trim().toUpperCase() || house;
}

/** The currency amounts are in and, where it is not the house’s, the day’s rate. */
export function CurrencyFields({
  house,
  dated = true,
  elseToday = false,
}: {
  house: string;
  dated?: boolean;
  /** Without a day the rate is of today. */
  elseToday?: boolean;
}) {
  const currency = useTypedCurrency(house);
  return (
    <>
      <TextField name="currency" label="Currency" placeholder={house} />
      {currency !== house && (
        <>
          <NumberField name="rate" quantity="plain" label={`1 ${currency} in ${house}`} />
          {dated && (
            <DayField name="rateOn" label={elseToday ? 'Rate of (empty: today)' : 'Rate of'} />
          )}
        </>
      )}
    </>
  );
}
