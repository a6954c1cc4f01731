'use client';

import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Label } from '@/kit/form-parts';
import { useAct } from '@/kit/use-act';
import { addJobsAct } from './bench-acts';

export interface LotChoice {
  id: number;
  code: string;
  title: string;
  cells: { id: number; number: string; tested: boolean; ready: boolean }[];
}

/** Cells named as `B-0101`, `B-0105 to B-0112`, `all`, `untested` or `24` for the first so many untested. */
function pick(lot: LotChoice, text: string): { ids: number[]; problem: string | null } {
  const words = text.trim().toLowerCase();
  const ready = lot.cells.filter((cell) => cell.ready);
  const untested = ready.filter((cell) => !cell.tested);
  if (words === '' || words === 'untested')
    return { ids: untested.map(({ id }) => id), problem: null };
  if (words === 'all') return { ids: ready.map(({ id }) => id), problem: null };
  if (/^\d+$/.test(words))
    return { ids: untested.slice(0, Number(words)).map(({ id }) => id), problem: null };
  const ids: number[] = [];
  for (const part of text.split(/[,;]+/)) {
    const [from, to] = part.split(/\s+(?:to|–|-)\s+/i).map((one) => one.trim().toUpperCase());
    const start = lot.cells.findIndex(({ number }) => number === from);
    const end = to ? lot.cells.findIndex(({ number }) => number === to) : start;
    if (start < 0 || end < start)
      return {
        ids: [],
        problem: `“${part.trim()}” is no cell of ${lot.code}. Expected such as ${lot.cells[0]?.number ?? 'B-0101'}, or two with “to” between.`,
      };
    ids.push(...lot.cells.slice(start, end + 1).map(({ id }) => id));
  }
  return { ids: [...new Set(ids)], problem: null };
}

/** Puts cells on the bench’s list. */
export function JobForm({
  lots,
  recipes,
}: {
  lots: readonly LotChoice[];
  recipes: readonly { id: number; name: string }[];
}) {
  const [lotId, setLotId] = useState(lots[0]?.id ?? 0);
  const [recipeId, setRecipeId] = useState(recipes[0]?.id ?? 0);
  const [text, setText] = useState('');
  const [dueOn, setDueOn] = useState('');
  const [pressing, setPressing] = useState(false);
  const { run, busy, problem } = useAct();
  const [said, setSaid] = useState<string | null>(null);
  const lot = lots.find(({ id }) => id === lotId);
  const chosen = useMemo(() => (lot ? pick(lot, text) : { ids: [], problem: null }), [lot, text]);
  if (!lot) return <p className="text-quiet">No lot has cells that are ready for the bench.</p>;
  return (
    <form
      className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-[2fr_2fr_2fr_1fr_auto]"
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
        <select
          className="field"
          value={lotId}
          onChange={(event) => setLotId(Number(event.target.value))}
        >
          {lots.map(({ id, code, title }) => (
            <option key={id} value={id}>
              {code}: {title}
            </option>
          ))}
        </select>
      </Label>
      <Label text={`Cells (${chosen.ids.length})`}>
        <input
          className="field"
          placeholder="untested, 24, or B-0101 to B-0108"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Label>
      <Label text="Recipe">
        <select
          className="field"
          value={recipeId}
          onChange={(event) => setRecipeId(Number(event.target.value))}
        >
          {recipes.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Label>
      <Label text="Due">
        <input
          type="date"
          className="field"
          value={dueOn}
          onChange={(event) => setDueOn(event.target.value)}
        />
      </Label>
      <Button type="submit" disabled={busy || chosen.ids.length === 0}>
        Put on the list
      </Button>
      <label className="flex items-center gap-2 sm:col-span-full">
        <input
          type="checkbox"
          checked={pressing}
          onChange={(event) => setPressing(event.target.checked)}
          className="size-4 accent-[var(--ember)]"
        />
        Pressing: before others when days run out
      </label>
      <div className="sm:col-span-full" role="status">
        {(problem ?? chosen.problem) && <Problem>{problem ?? chosen.problem}</Problem>}
        {!problem && said && <p>{said}</p>}
      </div>
    </form>
  );
}
