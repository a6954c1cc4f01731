'use client';

import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { AT_ONCE, offerUndoOf } from '@/kit/undo-toast';
import { labelCellAct } from './acts';

/** The mark a cell carries, to be read or changed; one that is there already is changed with a reason. */
export function LabelForm({
  cellId,
  version,
  label,
}: {
  cellId: number;
  version: number;
  label: string;
}) {
  const first = useMemo(() => ({ cellId, version, label, reason: '' }), [cellId, version, label]);
  const form = useLabForm({
    schema: 'cellMarkInput',
    first,
    act: labelCellAct,
    done: (cell) =>
      offerUndoOf(
        cell.label === null ? 'It has no mark now.' : `It reads “${cell.label}” now.`,
        () => labelCellAct({ cellId, version: cell.version, label, reason: AT_ONCE }),
      ),
  });
  const typed = useWatch({ control: form.form.control, name: 'label' });
  const isOther = typed.trim() !== label;
  return (
    <Form
      of={form}
      label="Mark"
      act="Keep"
      look="plain"
      names={{ label: 'Mark on the cell' }}
      className="flex flex-wrap items-end gap-2"
      hidesAct={!isOther}
    >
      <TextField name="label" label="Mark on the cell" className="w-80" />
      {isOther && label !== '' && <TextField name="reason" label="Why" className="w-48" />}
    </Form>
  );
}
