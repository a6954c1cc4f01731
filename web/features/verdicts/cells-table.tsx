'use client';

import { LIFE_ORDER, LIFE_STATES } from '@dusk-tally/core/stock';
import type { CellLine } from '@dusk-tally/lab/verdicts';
import { type ReactNode, useMemo } from 'react';
import { ButtonLink } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { DataTable } from '@/kit/data-table/data-table';
import { Toggles } from '@/kit/toggles';
import { useAddress } from '@/lib/use-address';
import { cellColumns } from './cell-columns';
import { type PackedLines, unpackLines } from './packed-lines';
import { verdictOf } from './verdict-of';

const FILTERS = {
  all: 'All',
  notMet: 'Misses',
  tooClose: 'Too close',
  met: 'Meets',
  atLeast: 'At least; open',
  atMost: 'At most; open',
  held: 'Held',
  notComparable: 'Not comparable',
  open: 'Not tested',
} as const;
type Filter = keyof typeof FILTERS;

const numberOf = (line: CellLine): string => line.number;

/** Chooses cells by where they are in their life; states no cell is in are not offered. */
function LifeFilter({
  lines,
  chosen,
  onChoose,
}: {
  lines: readonly CellLine[];
  chosen: string | null;
  onChoose: (state: string | null) => void;
}) {
  const counts = useMemo(() => {
    const count = new Map<string, number>();
    for (const { life } of lines) count.set(life, (count.get(life) ?? 0) + 1);
    return count;
  }, [lines]);
  return (
    <Choice
      label="Where in its life"
      className="w-auto"
      value={chosen ?? ''}
      onValue={(next) => onChoose(next || null)}
    >
      <Option value="">anywhere in its life</Option>
      {LIFE_ORDER.filter((state) => counts.has(state) || state === chosen).map((state) => (
        <Option key={state} value={state}>
          {LIFE_STATES[state]} ({counts.get(state) ?? 0})
        </Option>
      ))}
    </Choice>
  );
}

/** Every cell of a lot; order, search and filter stand in the address. */
export function CellsTable({
  packed,
  code,
  acts,
}: {
  packed: PackedLines;
  code: string;
  /** Further things that can be done with chosen cells. */
  acts?: (chosen: readonly CellLine[], clear: () => void) => ReactNode;
}) {
  const lines = useMemo(() => unpackLines(packed), [packed]);
  const columns = useMemo(() => cellColumns(lines), [lines]);
  const { query, set } = useAddress();
  const asked = query.get('show') ?? 'all';
  const filter: Filter = Object.hasOwn(FILTERS, asked) ? (asked as Filter) : 'all';
  const life = query.get('life');
  const shown = useMemo(
    () =>
      lines.filter(
        (line) =>
          (filter === 'all' || verdictOf(line) === filter) && (life === null || line.life === life),
      ),
    [lines, filter, life],
  );
  const counts = useMemo(() => {
    const count = new Map<string, number>([['all', lines.length]]);
    for (const line of lines) {
      const verdict = verdictOf(line);
      count.set(verdict, (count.get(verdict) ?? 0) + 1);
    }
    return count;
  }, [lines]);
  return (
    <DataTable
      name="cells"
      label={`Cells of ${code}`}
      rows={shown}
      rowId={numberOf}
      columns={columns}
      tools={
        <>
          <Toggles
            label="Show"
            value={filter}
            onValue={(next) => set({ show: next === 'all' ? null : next })}
            // Groups no cell is in say nothing; the one that is chosen stays.
            options={(Object.keys(FILTERS) as Filter[])
              .filter((key) => key === 'all' || key === filter || counts.has(key))
              .map(
                (key) =>
                  [
                    key,
                    <span key={key}>
                      {FILTERS[key]} <span className="tabular-nums">{counts.get(key) ?? 0}</span>
                    </span>,
                  ] as const,
              )}
          />
          <LifeFilter lines={lines} chosen={life} onChoose={(state) => set({ life: state })} />
        </>
      }
      acts={(chosen, clear) => {
        const numbers = encodeURIComponent(chosen.map(numberOf).join(', '));
        return (
          <>
            <ButtonLink href={`/lots/${code}/curves?cells=${numbers}&only=1`}>
              Curves of these
            </ButtonLink>
            <ButtonLink href={`/bench/plan?lot=${code}&cells=${numbers}`}>
              Onto the bench’s list
            </ButtonLink>
            {acts?.(chosen, clear)}
          </>
        );
      }}
      empty={
        query.get('find') ? 'No cell has these words.' : 'No cell of this lot is in this group.'
      }
    />
  );
}
