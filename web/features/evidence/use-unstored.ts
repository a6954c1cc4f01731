'use client';

import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import { useEffect, useRef } from 'react';
import { usePerson } from '@/kit/person';
import { keep, readKept } from '@/lib/browser-store';
import type { GridCell, GridColumn } from './entry-columns';
import { isAsked } from './grid-judge';
import type { Grid, Place } from './grid-state';

/** What is typed, asked about or not understood, and not answered. */
interface Kept {
  texts: { cellId: number; kind: string; purpose: ReadingPurpose; text: string }[];
  unplaced: number;
}

function unstored(key: string): Kept {
  const kept = readKept(key) as Kept | null;
  return kept && Array.isArray(kept.texts) ? kept : { texts: [], unplaced: 0 };
}

/** Keeps what is typed and not stored past a reload, for the person who typed it. */
export function useUnstored(
  lotId: number,
  takenFor: ReadingPurpose,
  grid: Grid,
  {
    cells,
    columns,
    purpose,
  }: {
    cells: readonly GridCell[];
    columns: readonly GridColumn[];
    purpose: ReadingPurpose;
  },
) {
  const { id } = usePerson();
  const key = `dusk-draft:${id}:grid ${lotId} ${takenFor}`;
  const ready = useRef(false);
  useEffect(() => {
    // Nothing is kept before what was kept is taken up.
    if (!ready.current) return;
    const texts = [...grid.entries].flatMap(([at, entry]): Kept['texts'] => {
      if (!entry.problem && (!isAsked(entry) || entry.clash)) return [];
      const [row, column] = at.split(':').map(Number) as [number, number];
      const cell = cells[row];
      const own = columns[column];
      return cell && own ? [{ cellId: cell.id, kind: own.kind, purpose, text: entry.text }] : [];
    });
    const { unplaced } = grid;
    keep(key, texts.length === 0 && unplaced === 0 ? null : { texts, unplaced });
  }, [grid, cells, columns, purpose, key]);
  return {
    /** What was typed before a reload, where it stands now. */
    read: (): { texts: { at: Place; text: string }[]; unplaced: number } => {
      ready.current = true;
      const kept = unstored(key);
      return {
        unplaced: kept.unplaced,
        texts: kept.texts.flatMap(({ cellId, kind, purpose: own, text }) => {
          const row = cells.findIndex((cell) => cell.id === cellId);
          const column = columns.findIndex((one) => one.kind === kind);
          return row < 0 || column < 0 || own !== purpose ? [] : [{ at: { row, column }, text }];
        }),
      };
    },
  };
}
