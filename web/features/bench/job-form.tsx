'use client';

import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Label } from '@/kit/form-parts';
import { type CellsRead, readCells } from '@dusk-tally/core/arrivals';
import { CellsField } from '@/kit/cells-field';
import { useAct } from '@/kit/use-act';
import { useAddress } from '@/lib/use-address';
import { addJobsAct } from './bench-acts';
import { Choice, Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';
import { Tick } from '@/kit/tick';

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

/** Puts cells on the bench’s list. */
export function JobForm({
  lots,
  recipes,
}: {
  lots: readonly LotChoice[];
  recipes: readonly { id: number; name: string }[];
}) {
  const { query } = useAddress();
  const [lotId, setLotId] = useState(
    (lots.find(({ code }) => code === query.get('lot')) ?? lots[0])?.id ?? 0,
  );
  const [recipeId, setRecipeId] = useState(recipes[0]?.id ?? 0);
  const [text, setText] = useState(query.get('cells') ?? '');
  const [dueOn, setDueOn] = useState('');
  const [pressing, setPressing] = useState(false);
  const { run, busy, problem } = useAct();
  const [said, setSaid] = useState<string | null>(null);
  const lot = lots.find(({ id }) => id === lotId);
  const chosen = useMemo(() => (lot ? pick(lot, text) : { ids: [], unknown: [] }), [lot, text]);
  if (!lot) return <p className="text-quiet">No lot has cells that are ready for the bench.</p>;
  return (
    <form
      className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-[2fr_2fr_2fr_minmax(9.5rem,1fr)_auto]"
      onSubmit={(event) => {
        event.preventDefault();
        run(
          () =>
            addJobsAct({
              lotId,
              cellIds: chosen.ids,
              recipeId,
              dueOn: dueOn || null,
              priority: pressing ? 3 : 1,
            }),
          ({ added, skipped }) => {
            setText('');
            setSaid(
              `${added} put on the list${skipped.length > 0 ? `; ${skipped.length} are on it already` : ''}.`,
            );
          },
        );
      }}
    >
      <Label text="Lot">
        <Choice value={lotId} onValue={(next) => setLotId(Number(next))}>
          {lots.map(({ id, code, title }) => (
            <Option key={id} value={id}>
              {code}: {title}
            </Option>
          ))}
        </Choice>
      </Label>
      <CellsField
        label={`Cells (${chosen.ids.length})`}
        lot={lot.code}
        cells={lot.cells}
        read={chosen}
        text={text}
        onText={setText}
        otherwise="untested, or "
      />
      <Label text="Recipe">
        <Choice value={recipeId} onValue={(next) => setRecipeId(Number(next))}>
          {recipes.map(({ id, name }) => (
            <Option key={id} value={id}>
              {name}
            </Option>
          ))}
        </Choice>
      </Label>
      <Label text="Due">
        <DateField value={dueOn} onValue={(next) => setDueOn(next)} />
      </Label>
      <Button type="submit" disabled={busy || chosen.ids.length === 0 || chosen.unknown.length > 0}>
        Put on the list
      </Button>
      <Tick checked={pressing} onChecked={(on) => setPressing(on)} className="sm:col-span-full">
        Pressing: before others when days run out
      </Tick>
      <div className="sm:col-span-full" role="status">
        {problem && <Problem>{problem}</Problem>}
        {!problem && said && <p>{said}</p>}
      </div>
    </form>
  );
}
