'use client';

import type { ReadingPurpose, ResultVoltages } from '@dusk-tally/core/arrivals';
import type { ProbePlace } from '@dusk-tally/core/verdicts';
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  type Clash,
  COLUMN,
  decimalsIn,
  type Entry,
  entryOf,
  type GridCell,
  type GridColumn,
  initialEntries,
  keyOf,
  type Kind,
  METER_OF,
  readingPlace,
  SHOWN_KINDS,
  BLANK,
} from './entry-columns';
import type { PendingReading } from './entry-outbox';
import { judgeEntry } from './grid-judge';
import {
  beside,
  commit,
  type Grid,
  gridOf,
  keepColumns,
  paste,
  type Place,
  placed,
  refused,
  restored,
  settle,
  type Step,
  turnTo,
  undo,
} from './grid-state';
import { useGridSending } from './use-grid-sending';
import { useUnstored } from './use-unstored';

/** An instrument readings are taken with. */
export interface GridInstrument {
  id: number;
  name: string;
  kind: string;
}

export interface GridSettings {
  lotId: number;
  cells: GridCell[];
  /** Number of the newest reading the page was made from. */
  lastReading: number;
  instruments: GridInstrument[];
  expected: Partial<Record<Kind, number | null>>;
  /** What a discharge runs between, to check a typed result by. */
  voltages?: ResultVoltages;
  /** Columns, in the order they are read. */
  kinds: Kind[];
  /** What readings are taken for, unless it is chosen otherwise. */
  takenFor: ReadingPurpose;
}

const UNKNOWN: ResultVoltages = { cutoffV: null, chargeV: null, nominalV: null };

/** Which further columns a choice shows. */
const FURTHER: Readonly<Record<string, readonly Kind[]>> = {
  energyShown: SHOWN_KINDS,
  energyBehindInverter: ['energyBehindInverter'],
};

/** How readings are taken: with what, where, for what. */
function useHow(takenFor: ReadingPurpose) {
  const [bare, setBare] = useState<Partial<Record<Kind, string>>>({});
  const [instrument, setInstrument] = useState('');
  const [probe, setProbe] = useState<ProbePlace>('terminal');
  const [purpose, setPurpose] = useState(takenFor);
  return { bare, setBare, instrument, setInstrument, probe, setProbe, purpose, setPurpose };
}

/** A typed entry as it is sent. */
function readingOf(
  entry: Entry,
  kind: Kind,
  cellId: number,
  { instrument, probe, purpose }: ReturnType<typeof useHow>,
  instruments: readonly GridInstrument[],
): Omit<PendingReading, 'clientKey' | 'over'> {
  const chosen = instruments.find((row) => String(row.id) === instrument);
  return {
    cellId,
    kind,
    value: entry.value,
    decimals:
      entry.value === null
        ? 0
        : Math.max(entry.decimals, ...(entry.repeats ?? [entry.value]).map(decimalsIn)),
    repeats: entry.repeats,
    probe: kind === 'acResistance' ? probe : null,
    purpose,
    keptDespite: entry.kept ? (entry.doubt?.question ?? null) : null,
    instrumentId: chosen?.kind === METER_OF[kind] ? chosen.id : null,
  };
}

/** The grid of typed readings: what stands in it, and every act on it. */
export function useGrid(settings: GridSettings, beep: () => void) {
  const { lotId, cells, instruments, expected, voltages = UNKNOWN, kinds, takenFor } = settings;
  const how = useHow(takenFor);
  const { bare, purpose, setPurpose } = how;
  const [more, setMore] = useState('');
  const columns = useMemo(
    () => [...kinds, ...(FURTHER[more] ?? [])].map((kind) => COLUMN[kind]),
    [kinds, more],
  );
  /** What stands in columns now: as the page was made, and what came since, shown or not. */
  const standing = (wanted: readonly GridColumn[], own: ReadingPurpose, first: number) => {
    const came = cells.flatMap(({ id }, row) =>
      wanted.flatMap(({ kind }, i): [string, Entry][] => {
        const newest = sending.newestAt(readingPlace(id, kind, own));
        return newest ? [[keyOf(row, first + i), entryOf(newest, newest.by)]] : [];
      }),
    );
    return [...new Map([...initialEntries(cells, [...wanted], own, first), ...came])];
  };
  const [grid, setGrid] = useState<Grid>(() => gridOf(initialEntries(cells, columns, takenFor)));
  // What stands now, also between a key and the next drawing: moving on blurs the field at once.
  const now = useRef(grid);
  const become = (next: Grid) => {
    now.current = next;
    setGrid(next);
  };
  const rowOfCell = useMemo(() => new Map(cells.map((cell, row) => [cell.id, row])), [cells]);
  /** Where a reading is shown; null where it is not shown now. */
  const shownAt = (reading: { cellId: number; kind: Kind; purpose: ReadingPurpose }) => {
    const row = rowOfCell.get(reading.cellId);
    const column = columns.findIndex(({ kind }) => kind === reading.kind);
    const isOther = reading.kind === 'openCircuitVoltage' && reading.purpose !== purpose;
    return row === undefined || column < 0 || isOther ? null : keyOf(row, column);
  };
  const sending = useGridSending({
    lotId,
    cells,
    lastReading: settings.lastReading,
    onRefused: (reading, message, current) => {
      const key = shownAt(reading);
      if (key === null) return;
      const mine = entryOf(reading);
      const clash = current ? (current as Clash) : null;
      // From here on who types sees what stands there: another value is an answer, too.
      const { cellId, kind, purpose: own } = reading;
      if (clash) sending.see(readingPlace(cellId, kind, own), clash.clientKey);
      const why = clash ? { clash } : { message };
      become(refused(now.current, key, mine, why));
      beep();
    },
    onBeside: (readings) =>
      become(
        beside(
          now.current,
          readings.flatMap((reading) => {
            const key = shownAt(reading);
            return key === null ? [] : [[key, entryOf(reading, reading.person)]];
          }),
        ),
      ),
  });
  const context = { cells, columns, bare, expected, voltages };
  const judge = (place: Place, text: string, among: ReadonlyMap<string, Entry>) =>
    judgeEntry(context, place, text, among);
  const cellAt = (key: string) => {
    const [row, column] = key.split(':').map(Number) as [number, number];
    return { cell: cells[row]!, kind: columns[column]!.kind };
  };
  const take = ({ grid: next, send }: Step) => {
    become(next);
    sending.send(
      send.map(([key, entry]) => {
        const { cell, kind } = cellAt(key);
        return readingOf(entry, kind, cell.id, how, instruments);
      }),
    );
  };
  const unstored = useUnstored(lotId, takenFor, grid, { cells, columns, purpose });

  useEffect(() => {
    const waiting = sending.takeUp().flatMap((reading): [string, Entry][] => {
      const key = shownAt(reading);
      return key === null ? [] : [[key, entryOf(reading)]];
    });
    const { texts, unplaced } = unstored.read();
    let next = { ...placed(now.current, waiting), unplaced };
    for (const { at, text } of texts) next = restored(next, at, text, judge);
    become(next);
    // Runs once: what waited when the page was left is taken up again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  return {
    grid,
    columns,
    how,
    more,
    state: sending.state,
    entryAt: (key: string) => now.current.entries.get(key) ?? BLANK,
    look: (row: number, column: number) =>
      sending.look(cells[row]!.id, columns[column]!.kind, purpose),
    /** @returns whether the hand may move on. */
    commit: (row: number, column: number, text: string): boolean => {
      const step = commit(now.current, { row, column }, text, judge);
      if (step.grid !== now.current) take(step);
      if (!step.moves) beep();
      return step.moves;
    },
    /** @returns how many were stored. */
    paste: (row: number, column: number, texts: readonly (readonly string[])[]): number => {
      const size = { rows: cells.length, columns: columns.length };
      const step = paste(now.current, { row, column }, texts, size, judge);
      take(step);
      return step.send.length;
    },
    undo: (): Place | null => {
      const step = undo(now.current);
      if (step.at) take(step);
      return step.at;
    },
    settle: (key: string, which: 'mine' | 'theirs') => {
      const { clash } = now.current.entries.get(key) ?? BLANK;
      if (!clash) return;
      take(settle(now.current, key, which));
    },
    forgetUnplaced: () => become({ ...now.current, unplaced: 0 }),
    /** Shows further columns with what is stored in them; those shown before give way. */
    showMore: (first: string) => {
      const kept = keepColumns(now.current, (column) => column < kinds.length);
      const wanted = (FURTHER[first] ?? []).map((kind) => COLUMN[kind]);
      setMore(first);
      become(placed(kept, standing(wanted, purpose, kinds.length)));
    },
    /** Voltages of another purpose are shown in place of those that were. */
    choosePurpose: (next: ReadingPurpose) => {
      const column = columns.findIndex(({ kind }) => kind === 'openCircuitVoltage');
      const fresh = standing([columns[column]!], next, column);
      become(turnTo(now.current, column, { from: purpose, to: next, fresh }));
      setPurpose(next);
    },
  };
}
