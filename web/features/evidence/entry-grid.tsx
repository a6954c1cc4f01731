'use client';

import { checkTyped, type Doubt, type TypedColumn } from '@dusk-tally/core/arrivals';
import { parseQuantity, type TypedQuantity } from '@dusk-tally/core/units';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ClipboardEvent,
  type KeyboardEvent,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { Button } from '@/kit/button';
import { type PendingReading, useOutbox } from './entry-outbox';
import { OutboxLine } from './outbox-line';

type Kind = PendingReading['kind'];

interface GridColumn {
  kind: Kind;
  head: string;
  column: TypedColumn;
  quantity: TypedQuantity;
}

const COLUMNS: GridColumn[] = [
  {
    kind: 'acResistance',
    head: 'AC resistance / mΩ',
    column: 'acResistanceMohm',
    quantity: 'resistanceMohm',
  },
  { kind: 'openCircuitVoltage', head: 'OCV / V', column: 'ocvV', quantity: 'voltageV' },
  {
    kind: 'capacity',
    head: 'Capacity as shown by a tester / Ah',
    column: 'capacityAh',
    quantity: 'capacityAh',
  },
];

export interface GridCell {
  id: number;
  number: string;
  label: string | null;
  readings: Partial<Record<string, { value: number; decimals: number }>>;
}

interface Entry {
  text: string;
  value: number | null;
  problem: string | null;
  doubt: Doubt | null;
  /** The doubt was answered with "keep". */
  kept: boolean;
}

const keyOf = (row: number, column: number) => `${row}:${column}`;
const decimalsIn = (value: number): number =>
  Math.min(9, (/\.(\d+)$/.exec(String(value))?.[1] ?? '').length);
const BLANK: Entry = { text: '', value: null, problem: null, doubt: null, kept: false };

/** Readings typed off a meter: value, Enter, next cell. */
export function EntryGrid({
  lotId,
  cells,
  instruments,
  expected,
}: {
  lotId: number;
  cells: GridCell[];
  instruments: { id: number; name: string; kind: string }[];
  expected: Record<Kind, number | null>;
}) {
  const { state, push, restore } = useOutbox(lotId);
  const [instrument, setInstrument] = useState('');
  const [at, setAt] = useState<{ row: number; column: number }>({ row: 0, column: 0 });
  const [entries, setEntries] = useState<Map<string, Entry>>(() => initialEntries(cells));
  const history = useRef<{ key: string; before: Entry }[]>([]);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: cells.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  });
  const rowOfCell = useMemo(() => new Map(cells.map((cell, row) => [cell.id, row])), [cells]);

  const show = useCallback(
    (changes: [string, Entry][]) => setEntries((now) => new Map([...now, ...changes])),
    [],
  );

  useEffect(() => {
    const held = restore();
    if (held.length === 0) return;
    show(
      held.flatMap((reading): [string, Entry][] => {
        const row = rowOfCell.get(reading.cellId);
        const column = COLUMNS.findIndex(({ kind }) => kind === reading.kind);
        return row === undefined
          ? []
          : [
              [
                keyOf(row, column),
                { ...BLANK, text: String(reading.value ?? ''), value: reading.value },
              ],
            ];
      }),
    );
    // Runs once: what was held when the page was left is taken up again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  const focus = (row: number, column: number) => {
    const to = {
      row: Math.max(0, Math.min(cells.length - 1, row)),
      column: Math.max(0, Math.min(COLUMNS.length - 1, column)),
    };
    setAt(to);
    virtual.scrollToIndex(to.row, { align: 'auto' });
    requestAnimationFrame(() => {
      const input = scroller.current?.querySelector<HTMLInputElement>(
        `[data-at="${keyOf(to.row, to.column)}"]`,
      );
      input?.focus();
      input?.select();
    });
  };

  const judged = (row: number, column: number, text: string, among: Map<string, Entry>): Entry => {
    const { quantity, column: name, kind } = COLUMNS[column]!;
    if (text.trim() === '') return BLANK;
    const parsed = parseQuantity(text, quantity);
    if (!parsed.ok) return { ...BLANK, text, problem: parsed.message };
    const valueAt = (r: number) => among.get(keyOf(r, column))?.value ?? null;
    const others = cells.flatMap((_, r) => (r !== row && valueAt(r) !== null ? [valueAt(r)!] : []));
    const previous = [1, 2, 3, 4].flatMap((back) => valueAt(row - back) ?? []);
    const doubt = checkTyped(name, parsed.value, { others, previous, expected: expected[kind] });
    return { text: String(parsed.value), value: parsed.value, problem: null, doubt, kept: false };
  };

  const instrumentFor = (kind: Kind): number | null => {
    const chosen = instruments.find((row) => String(row.id) === instrument);
    const fits = { acResistance: 'acMeter', openCircuitVoltage: 'voltmeter', capacity: 'tester' }[
      kind
    ];
    return chosen?.kind === fits ? chosen.id : null;
  };

  const send = (changes: [string, Entry][]) => {
    push(
      changes.map(([key, entry]): PendingReading => {
        const [row, column] = key.split(':').map(Number) as [number, number];
        const { kind } = COLUMNS[column]!;
        return {
          cellId: cells[row]!.id,
          kind,
          value: entry.value,
          decimals: entry.value === null ? 0 : decimalsIn(entry.value),
          clientKey: crypto.randomUUID(),
          keptDespite: entry.kept ? entry.doubt!.question : null,
          instrumentId: instrumentFor(kind),
        };
      }),
    );
  };

  /** Keeps what was typed at one place. @returns whether the hand may move on. */
  const commit = (row: number, column: number, text: string): boolean => {
    const key = keyOf(row, column);
    const before = entries.get(key) ?? BLANK;
    if (text.trim() === before.text && !before.problem && !(before.doubt && !before.kept))
      return true;
    const stillAsked = before.doubt && !before.kept && text.trim() === before.text;
    const after: Entry = stillAsked
      ? { ...before, kept: true }
      : judged(row, column, text, entries);
    show([[key, after]]);
    if (after.problem) return false;
    if (after.doubt && !after.kept) {
      beep();
      return false;
    }
    if (after.value === before.value) return true;
    history.current.push({ key, before });
    send([[key, after]]);
    return true;
  };

  const undo = () => {
    const last = history.current.pop();
    if (!last) return;
    show([[last.key, last.before]]);
    send([[last.key, last.before]]);
    const [row, column] = last.key.split(':').map(Number) as [number, number];
    focus(row, column);
  };

  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
    const input = event.currentTarget;
    if ((event.ctrlKey || event.metaKey) && event.key === 'z') {
      event.preventDefault();
      return undo();
    }
    const moves: Record<string, [number, number]> = {
      Enter: [1, 0],
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
    };
    if (event.key === 'ArrowRight' && input.selectionStart === input.value.length)
      moves.ArrowRight = [0, 1];
    if (event.key === 'ArrowLeft' && input.selectionEnd === 0) moves.ArrowLeft = [0, -1];
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    if (commit(row, column, input.value)) focus(row + move[0], column + move[1]);
  };

  const onPaste = (event: ClipboardEvent, row: number, column: number) => {
    const rows = event.clipboardData
      .getData('text')
      .replace(/\r/g, '')
      .replace(/\n$/, '')
      .split('\n')
      .map((line) => line.split('\t'));
    if (rows.length === 1 && rows[0]!.length === 1) return;
    event.preventDefault();
    const among = new Map(entries);
    const changes: [string, Entry][] = [];
    rows.forEach((texts, r) =>
      texts.forEach((text, c) => {
        if (row + r >= cells.length || column + c >= COLUMNS.length || text.trim() === '') return;
        const key = keyOf(row + r, column + c);
        const entry = judged(row + r, column + c, text, among);
        among.set(key, entry);
        changes.push([key, entry]);
      }),
    );
    for (const [key] of changes) history.current.push({ key, before: entries.get(key) ?? BLANK });
    show(changes);
    send(changes.filter(([, entry]) => !entry.problem && !entry.doubt));
  };

  const asked = [...entries].filter(
    ([, entry]) => entry.problem || (entry.doubt && !entry.kept),
  ).length;
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-4">
        <label>
          <span className="mb-1 block text-quiet">Read with</span>
          <select
            className="field min-w-56"
            value={instrument}
            onChange={(event) => setInstrument(event.target.value)}
          >
            <option value="">A meter not described</option>
            {instruments.map((row) => (
              <option key={row.id} value={row.id}>
                {row.name}
              </option>
            ))}
          </select>
        </label>
        <OutboxLine state={state} />
        {asked > 0 && (
          <p className="text-doubt">
            {asked} {asked === 1 ? 'value waits' : 'values wait'} for an answer.
          </p>
        )}
      </div>
      <div ref={scroller} className="panel max-h-[calc(100dvh-9rem)] overflow-auto">
        <div className="sticky top-0 z-10 grid grid-cols-[13rem_repeat(3,minmax(11rem,1fr))] border-b border-strong-rule bg-sheet text-[0.82rem] font-semibold text-quiet">
          <span className="px-3 py-2">Cell</span>
          {COLUMNS.map((column) => (
            <span key={column.kind} className="px-3 py-2 text-right">
              {column.head}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: row, start }) => (
            <div
              key={cells[row]!.id}
              ref={virtual.measureElement}
              data-index={row}
              className={`absolute inset-x-0 grid grid-cols-[13rem_repeat(3,minmax(11rem,1fr))] border-b border-rule ${at.row === row ? 'bg-ember-wash' : ''}`}
              style={{ transform: `translateY(${start}px)` }}
            >
              <span className="px-3 py-2 font-medium">
                {cells[row]!.number}
                <span className="block truncate text-[0.72rem] font-normal text-quiet">
                  {cells[row]!.label}
                </span>
              </span>
              {COLUMNS.map((column, c) => (
                <GridInput
                  key={column.kind}
                  at={keyOf(row, c)}
                  name={`${column.head}, ${cells[row]!.number}`}
                  entry={entries.get(keyOf(row, c)) ?? BLANK}
                  onFocus={() => setAt({ row, column: c })}
                  onKeyDown={(event) => onKeyDown(event, row, c)}
                  onPaste={(event) => onPaste(event, row, c)}
                  onBlur={(text) =>
                    void (
                      text !== (entries.get(keyOf(row, c)) ?? BLANK).text && commit(row, c, text)
                    )
                  }
                  onKeep={() => {
                    if (commit(row, c, entries.get(keyOf(row, c))!.text)) focus(row + 1, c);
                  }}
                />
              ))}
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

function initialEntries(cells: GridCell[]): Map<string, Entry> {
  const entries = new Map<string, Entry>();
  cells.forEach((cell, row) =>
    COLUMNS.forEach(({ kind }, column) => {
      const reading = cell.readings[kind];
      if (reading)
        entries.set(keyOf(row, column), {
          ...BLANK,
          text: reading.value.toFixed(reading.decimals),
          value: reading.value,
        });
    }),
  );
  return entries;
}

/** A short tone when a figure is odd. */
function beep(): void {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    tone.frequency.value = 440;
    tone.connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.12);
    tone.onended = () => void audio.close();
  } catch {
    // A browser without sound still shows the question.
  }
}

interface GridInputProps {
  at: string;
  name: string;
  entry: Entry;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => void;
  onPaste: (event: ClipboardEvent) => void;
  onBlur: (text: string) => void;
  onKeep: () => void;
}

function GridInput({
  at,
  name,
  entry,
  onFocus,
  onKeyDown,
  onPaste,
  onBlur,
  onKeep,
}: GridInputProps) {
  const [text, setText] = useState(entry.text);
  const [shown, setShown] = useState(entry);
  if (shown !== entry) {
    setShown(entry);
    setText(entry.text);
  }
  const question = entry.problem ?? (entry.doubt && !entry.kept ? entry.doubt.question : null);
  return (
    <span className="px-1.5 py-1">
      <input
        data-at={at}
        aria-label={name}
        aria-invalid={question !== null}
        aria-describedby={question ? `q-${at}` : undefined}
        autoComplete="off"
        inputMode="decimal"
        className={`w-full rounded-sm border bg-raised px-2 py-1.5 text-right tabular-nums ${question ? 'border-doubt' : 'border-rule'}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onFocus={onFocus}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onBlur={() => onBlur(text)}
      />
      {question && (
        <span
          id={`q-${at}`}
          role="alert"
          className="mt-1 flex flex-wrap items-center justify-end gap-2 text-[0.82rem] text-doubt"
        >
          {question}
          {!entry.problem && (
            <Button
              className="min-h-7 px-2 py-0.5"
              onMouseDown={(event) => event.preventDefault()}
              onClick={onKeep}
            >
              Keep it
            </Button>
          )}
        </span>
      )}
    </span>
  );
}
