'use client';

import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import { useEffect, useRef } from 'react';
import { usePerson } from '@/kit/person';
import type { GridCell, GridColumn } from './entry-columns';
import { isAsked } from './grid-judge';
import type { Grid, Place } from './grid-state';

/** What is typed, asked about or not understood, and not answered. */
interface Kept {
  texts: { cellId: number; kind: string; purpose: ReadingPurpose; text: string }[];
  unplaced: number;
}

function readKept(key: string): Kept {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Kept | null;
    if (kept && Array.isArray(kept.texts)) return kept;
  } catch {
    // What cannot be read is nothing.
  }
  return { texts: [], unplaced: 0 };
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
    if (texts.length === 0 && grid.unplaced === 0) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify({ texts, unplaced: grid.unplaced }));
  }, [grid, cells, columns, purpose, key]);
  return {
    /** What was typed before a reload, where it stands now. */
    read: (): { texts: { at: Place; text: string }[]; unplaced: number } => {
      ready.current = true;
      const kept = readKept(key);
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
