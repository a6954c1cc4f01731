'use client';

import { type CellsRead, readCells } from '@dusk-tally/core/arrivals';
import type { RecipePurpose } from '@dusk-tally/core/bench';
import { useEffect, useMemo, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { CellsField } from '@/kit/cells-field';
import { Option } from '@/kit/choice';
import { ChoiceField, DayField, TextField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { useAddress } from '@/lib/use-address';
import { addJobsAct } from './bench-acts';

export interface LotChoice {
  id: number;
  code: string;
  title: string;
  cells: { id: number; number: string; tested: boolean; ready: boolean }[];
}

/** Cells of a lot that may be put on the list; nothing typed means those without a test. */
function pick(lot: LotChoice, text: string): CellsRead {
  const ready = lot.cells.filter((cell) => cell.ready);
  const untested = ready.filter((cell) => !cell.tested).map(({ id }) => id);
  if (text.trim() === '') return { ids: untested, unknown: [] };
  const first = /^first\s+(\d+)$/i.exec(text.trim());
  if (first) return { ids: untested.slice(0, Number(first[1])), unknown: [] };
  return readCells(text, lot.cells, { untested, all: ready.map(({ id }) => id) });
}

const GRID =
  'grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)_minmax(0,1.6fr)_minmax(9.5rem,1fr)_auto]';

/** Puts cells on the bench’s list. */
export function JobForm({
  lots,
  recipes,
}: {
  lots: readonly LotChoice[];
  recipes: readonly { id: number; name: string; purpose: RecipePurpose }[];
}) {
  const { query } = useAddress();
  const [text, setText] = useState(query.get('cells') ?? '');
  const [said, setSaid] = useState<string | null>(null);
  const asked = lots.find(({ code }) => code === query.get('lot')) ?? lots[0];
  const form = useLabForm({
    schema: 'jobsInput',
    first: {
      lotId: asked?.id ?? 0,
      cellIds: [] as number[],
      recipeId: recipes[0]?.id ?? 0,
      dueOn: null as string | null,
      priority: 1,
      reason: '',
    },
    act: addJobsAct,
    done: ({ added, skipped }) => {
      setText('');
      setSaid(
        `${added} put on the list${skipped.length > 0 ? `; ${skipped.length} are on it already` : ''}.`,
      );
    },
  });
  const { control, setValue } = form.form;
  const [lotId, recipeId] = useWatch({ control, name: ['lotId', 'recipeId'] });
  const conditions = recipes.find(({ id }) => id === recipeId)?.purpose === 'conditioning';
  const lot = lots.find(({ id }) => id === lotId);
  const chosen = useMemo(() => (lot ? pick(lot, text) : { ids: [], unknown: [] }), [lot, text]);
  useEffect(() => setValue('cellIds', chosen.ids), [setValue, chosen]);
  if (!lot) return <p className="text-quiet">No lot has cells that are ready for the bench.</p>;
  return (
    <Form
      of={form}
      label="Jobs for the bench"
      act="Put on the list"
      look="plain"
      disabled={chosen.ids.length === 0 || chosen.unknown.length > 0}
      className={GRID}
    >
      <ChoiceField name="lotId" label="Lot" asNumber>
        {lots.map(({ id, code, title }) => (
          <Option key={id} value={id}>
            {code}: {title}
          </Option>
        ))}
      </ChoiceField>
      <CellsField
        label={`Cells (${chosen.ids.length})`}
        lot={lot.code}
        cells={lot.cells}
        read={chosen}
        text={text}
        onText={setText}
        otherwise="untested, or "
      />
      <ChoiceField name="recipeId" label="Recipe" asNumber>
        {recipes.map(({ id, name }) => (
          <Option key={id} value={id}>
            {name}
          </Option>
        ))}
      </ChoiceField>
      <DayField name="dueOn" label="Due" />
      {conditions && (
        <TextField
          className="order-last sm:col-span-full"
          name="reason"
          label="Why once more, from the third round of a cell on"
        />
      )}
      <TickField
        className="order-last sm:col-span-full"
        name="priority"
        label="Pressing: before others when days run out"
        yes={3}
        no={1}
      />
      {said && (
        <p role="status" className="order-last sm:col-span-full">
          {said}
        </p>
      )}
    </Form>
  );
}
