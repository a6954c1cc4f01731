'use client';

import type { OfferHint } from '@dusk-tally/core/arrivals';
import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import type { OfferCheck } from '@dusk-tally/lab/records';
import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, LinesField, NumberField, TextField } from '@/kit/form/fields';
import { CurrencyFields, useTypedCurrency } from '@/kit/form/currency-fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Empty } from '@/kit/page';
import { checkOfferAct, offerHintsAct } from './acts';
import { OfferResult } from './offer-result';

const FIELD_OF: Partial<Record<OfferHint['kind'], string>> = {
  capacity: 'claimedAh',
  mass: 'massG',
  quantity: 'cells',
  chemistry: 'chemistry',
  sizeCode: 'sizeCode',
  price: 'price',
  currency: 'currency',
};
/** Fields an offer’s text is read into, and those that go with it. */
const OF_AN_OFFER = [...Object.values(FIELD_OF), 'modelId', 'beside', 'rate'];

/** Fields of words: empty, where others are none. */
const TEXTS: ReadonlySet<string> = new Set(['sizeCode', 'currency']);

/** The pasted text, and what is read from it into the fields below. */
function PastedText() {
  const { getValues, setValue } = useFormContext();
  const [read, setRead] = useState<readonly OfferHint[] | null>(null);
  const fill = async () => {
    const answer = await offerHintsAct(String(getValues('text') ?? ''));
    if (!answer.ok) return;
    // Another text is another offer: nothing of the one before stays.
    const before = String(getValues('readFrom') ?? '');
    const now = String(getValues('text') ?? '');
    if (before.trim() !== '' && before !== now)
      for (const field of OF_AN_OFFER)
        setValue(field, TEXTS.has(field) ? '' : null, { shouldDirty: true });
    setValue('readFrom', now, { shouldDirty: true });
    const used = answer.data.filter(({ kind }) => FIELD_OF[kind] !== undefined);
    for (const { kind, value, text } of used)
      setValue(FIELD_OF[kind]!, value ?? text, { shouldDirty: true, shouldValidate: true });
    setRead(used);
  };
  return (
    <div>
      <LinesField name="text" label="The offer, pasted" rows={5} />
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <Button onClick={() => void fill()}>Read it into the fields</Button>
        {read && (
          <p role="status" className="text-[0.87rem] text-quiet">
            {read.length === 0
              ? 'Nothing of it was understood; type it below.'
              : `Read: ${[...new Set(read.map(({ from }) => `“${from}”`))].join(', ')}. Look it over.`}
          </p>
        )}
      </div>
    </div>
  );
}

/** What it costs, in the currency it is offered in. */
function PriceFields({ house }: { house: string }) {
  const currency = useTypedCurrency(house);
  return (
    <>
      <NumberField name="price" quantity="money" label={`Price of all / ${currency}`} />
      <NumberField name="beside" quantity="money" label={`Freight, duty, own time / ${currency}`} />
      <CurrencyFields house={house} dated={false} />
    </>
  );
}

/** An offer is typed or pasted, and looked at; nothing is kept. */
export function OfferForm({
  suppliers,
  models,
  currency,
}: {
  suppliers: readonly { id: number; name: string }[];
  models: readonly { id: number; name: string }[];
  currency: string;
}) {
  const [check, setCheck] = useState<OfferCheck | null>(null);
  const form = useLabForm({
    schema: 'offerInput',
    first: {
      text: '',
      supplierId: null,
      modelId: null,
      chemistry: null,
      sizeCode: '',
      claimedAh: null,
      massG: null,
      cells: null,
      price: null,
      beside: null,
      currency: '',
      rate: null,
      readFrom: '',
    },
    act: checkOfferAct,
    keepAs: 'offer',
    storesNothing: true,
    done: setCheck,
  });
  return (
    <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,28rem)_1fr]">
      <div className="panel p-4">
        <Form of={form} label="The offer" act="What is it worth?">
          <PastedText />
          <div className="grid items-end gap-3 sm:grid-cols-2">
            <ChoiceField name="supplierId" label="Supplier" asNumber>
              <Option value="">one we do not know</Option>
              {suppliers.map(({ id, name }) => (
                <Option key={id} value={id}>
                  {name}
                </Option>
              ))}
            </ChoiceField>
            <ChoiceField name="chemistry" label="Chemistry">
              {CHEMISTRIES.map((one) => (
                <Option key={one} value={one}>
                  {one}
                </Option>
              ))}
            </ChoiceField>
            <ChoiceField name="modelId" label="Model, for its size" asNumber>
              <Option value="">none of ours</Option>
              {models.map(({ id, name }) => (
                <Option key={id} value={id}>
                  {name}
                </Option>
              ))}
            </ChoiceField>
            <TextField name="sizeCode" label="or size code, such as 32700" />
            <NumberField name="claimedAh" quantity="capacityAh" label="Claimed capacity / Ah" />
            <NumberField name="massG" quantity="massG" label="Mass of a cell / g" />
            <NumberField name="cells" quantity="count" label="Cells" />
            <PriceFields house={currency} />
          </div>
        </Form>
      </div>
      {check ? (
        <OfferResult check={check} />
      ) : (
        <Empty title="Before anything is bought">
          Whether it can be true, what such claims turned out to be here, what a good kWh would
          cost, and what a sample would tell. Nothing of it is kept.
        </Empty>
      )}
    </div>
  );
}
