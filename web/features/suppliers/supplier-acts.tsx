'use client';

import { useMemo, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, LinesField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Over } from '@/kit/panel-over';
import { changeSupplierAct, mergeSuppliersAct } from './acts';

export interface Supplier {
  id: number;
  version: number;
  name: string;
  place: string | null;
  notes: string | null;
}

function ChangeForm({ supplier, done }: { supplier: Supplier; done: () => void }) {
  const { id, version, name, place, notes } = supplier;
  const first = useMemo(
    () => ({ id, version, name, place: place ?? '', notes: notes ?? '', reason: '' }),
    [id, version, name, place, notes],
  );
  const form = useLabForm({ schema: 'supplierChange', first, act: changeSupplierAct, done });
  return (
    <Form of={form} act="Keep the change" names={{ name: 'Name', place: 'Place', notes: 'Notes' }}>
      <TextField name="name" label="Name" />
      <TextField name="place" label="Place" />
      <LinesField name="notes" label="Notes" />
      <TextField name="reason" label="Why" />
    </Form>
  );
}

function MergeForm({
  supplier,
  lots,
  others,
  done,
}: {
  supplier: Supplier;
  lots: number;
  others: readonly Supplier[];
  done: () => void;
}) {
  const { id, version } = supplier;
  const first = useMemo(() => ({ id, version, into: null, reason: '' }), [id, version]);
  const form = useLabForm({ schema: 'supplierMerge', first, act: mergeSuppliersAct, done });
  const into = useWatch({ control: form.form.control, name: 'into' });
  const other = others.find((one) => one.id === into);
  return (
    <Form of={form} act="Take them together">
      <ChoiceField name="into" label="It is the same as" asNumber>
        <Option value="">choose</Option>
        {others.map((one) => (
          <Option key={one.id} value={one.id}>
            {one.name}
          </Option>
        ))}
      </ChoiceField>
      {other && (
        <p role="status" className="rounded-sm bg-wash p-2">
          {lots} {lots === 1 ? 'lot goes' : 'lots go'} from {supplier.name} to {other.name}. Whoever
          types “{supplier.name}” from now on means {other.name}. Issued reports keep the name they
          carry.
        </p>
      )}
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** What a lead can mend of a supplier: what they are called, and that two are one. */
export function SupplierActs({
  supplier,
  lots,
  others,
}: {
  supplier: Supplier;
  lots: number;
  others: readonly Supplier[];
}) {
  const [open, setOpen] = useState<'change' | 'merge' | null>(null);
  const close = () => setOpen(null);
  return (
    <span className="flex gap-1">
      <Button look="bare" aria-label={`Change ${supplier.name}`} onClick={() => setOpen('change')}>
        Change …
      </Button>
      {others.length > 0 && (
        <Button
          look="bare"
          aria-label={`${supplier.name} is the same as another`}
          onClick={() => setOpen('merge')}
        >
          Same as another …
        </Button>
      )}
      <Over
        open={open === 'change'}
        onOpen={close}
        width={460}
        title={`Change ${supplier.name}`}
        says="Issued reports keep the name they carry."
      >
        <ChangeForm supplier={supplier} done={close} />
      </Over>
      <Over
        open={open === 'merge'}
        onOpen={close}
        width={460}
        title={`${supplier.name} is the same as another`}
        says="Two names of one supplier are taken together; it cannot be taken apart again."
      >
        <MergeForm supplier={supplier} lots={lots} others={others} done={close} />
      </Over>
    </span>
  );
}
