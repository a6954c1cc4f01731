'use client';

import {
  checkTyped,
  checkTypedResult,
  impossibleReading,
  READING_PURPOSE_CODES,
  READING_PURPOSES,
  type ReadingPurpose,
  type ResultVoltages,
} from '@dusk-tally/core/arrivals';
import type { ProbePlace } from '@dusk-tally/core/verdicts';
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
import { type PendingReading, useOutbox } from './entry-outbox';
import { useScans } from '@/kit/scan-listener';
import {
  BLANK,
  COLUMN,
  decimalsIn,
  type Entry,
  type GridCell,
  initialEntries,
  keyOf,
  type Kind,
  METER_OF,
  parseEntry,
  SHOWN_KINDS,
} from './entry-columns';
import { beep, GridInput } from './grid-input';
import { OutboxLine } from '@/kit/outbox-line';
import { Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';

/** Read together off a meter that shows both. */
const PAIR: readonly Kind[] = ['openCircuitVoltage', 'acResistance'];

const UNKNOWN: ResultVoltages = { cutoffV: null, chargeV: null, nominalV: null };

/** Readings typed off a meter: value, Enter, next cell. */
export function EntryGrid({
  lotId,
  cells,
  instruments,
  expected,
  voltages = UNKNOWN,
  kinds = ['acResistance', 'openCircuitVoltage', 'capacity'],
  takenFor = 'arrival',
  mayChoose = false,
}: {
  lotId: number;
  cells: GridCell[];
  instruments: { id: number; name: string; kind: string }[];
  expected: Partial<Record<Kind, number | null>>;
  /** What a discharge runs between, to check a typed result by. */
  voltages?: ResultVoltages;
  /** Columns, in the order they are read. */
  kinds?: Kind[];
  /** What readings are taken for, unless it is chosen otherwise. */
  takenFor?: ReadingPurpose;
  /** It may be chosen otherwise. */
  mayChoose?: boolean;
}) {
  const [bare, setBare] = useState<Partial<Record<Kind, string>>>({});
  const [walk, setWalk] = useState<'down' | 'pair' | 'all'>('down');
  const { state, push, restore } = useOutbox(lotId, (reading, message) =>
    refused(reading, message),
  );
  const [purpose, setPurpose] = useState(takenFor);
  const [instrument, setInstrument] = useState('');
  const [probe, setProbe] = useState<ProbePlace>('terminal');
  const [more, setMore] = useState<readonly Kind[]>([]);
  const [at, setAt] = useState<{ row: number; column: number }>({ row: 0, column: 0 });
  const columns = useMemo(() => [...kinds, ...more].map((kind) => COLUMN[kind]), [kinds, more]);
  const [entries, setEntries] = useState<Map<string, Entry>>(
    () => new Map(initialEntries(cells, columns, takenFor)),
  );
  const asked = useRef(new Map<string, Entry>());
  const history = useRef<{ key: string; before: Entry }[]>([]);
  /** Voltages of purposes that are not shown now, as they were left. */
  const typed = useRef(new Map<ReadingPurpose, [string, Entry][]>());
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: cells.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  });
  const rowOfCell = useMemo(() => new Map(cells.map((cell, row) => [cell.id, row])), [cells]);

  // What stands now, also between a key and the next drawing: moving on blurs the field at once.
  const now = useRef(entries);
  const show = useCallback((changes: [string, Entry][]) => {
    now.current = new Map([...now.current, ...changes]);
    setEntries(now.current);
  }, []);

  /** A reading the server will never take comes back to its field, with the reason. */
  const refused = (reading: PendingReading, message: string) => {
    const row = rowOfCell.get(reading.cellId);
    const column = columns.findIndex(({ kind }) => kind === reading.kind);
    if (row === undefined || column < 0) return;
    const text = String(reading.value ?? '');
    show([[keyOf(row, column), { ...BLANK, text, problem: `Not stored: ${message}` }]]);
    beep();
  };

  useEffect(() => {
    const waiting = restore();
    if (waiting.length === 0) return;
    show(
      waiting.flatMap((reading): [string, Entry][] => {
        const row = rowOfCell.get(reading.cellId);
        const column = columns.findIndex(({ kind }) => kind === reading.kind);
        const isOther =
          reading.kind === 'openCircuitVoltage' && (reading.purpose ?? takenFor) !== takenFor;
        return row === undefined || isOther
          ? []
          : [
              [
                keyOf(row, column),
                { ...BLANK, text: String(reading.value ?? ''), value: reading.value },
              ],
            ];
      }),
    );
    // Runs once: what waited when the page was left is taken up again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  const focus = (row: number, column: number) => {
    const to = {
      row: Math.max(0, Math.min(cells.length - 1, row)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setAt(to);
    const reach = (): boolean => {
      const input = scroller.current?.querySelector<HTMLInputElement>(
        `[data-at="${keyOf(to.row, to.column)}"]`,
      );
      input?.focus({ preventScroll: true });
      input?.select();
      return input !== undefined && input !== null;
    };
    // At once where the next cell is drawn already: a quick hand types on without waiting.
    const reached = reach();
    virtual.scrollToIndex(to.row, { align: 'auto' });
    if (!reached) requestAnimationFrame(reach);
  };

  const judged = (row: number, column: number, text: string, among: Map<string, Entry>): Entry => {
    const { column: name, kind } = columns[column]!;
    if (text.trim() === '') return BLANK;
    const parsed = parseEntry(text, columns[column]!, bare[kind] ?? '');
    if (!parsed.ok) return { ...BLANK, text, problem: parsed.message };
    // What can be no such reading is not asked about: it could never be stored.
    const impossible = impossibleReading(kind, parsed.value);
    if (impossible) return { ...BLANK, text, problem: impossible };
    const valueAt = (r: number) => among.get(keyOf(r, column))?.value ?? null;
    const others = cells.flatMap((_, r) => (r !== row && valueAt(r) !== null ? [valueAt(r)!] : []));
    const previous = [1, 2, 3, 4].flatMap((back) => valueAt(row - back) ?? []);
    const doubt = checkTyped(name, parsed.value, {
      others,
      previous,
      expected: expected[kind] ?? null,
    });
    const { value, repeats } = parsed;
    const grouped = parsed.doubt
      ? ({ code: 'decimal-point', question: parsed.doubt } as const)
      : null;
    const whole = doubt ?? grouped ?? resultDoubt(row, { kind, value }, among);
    return { ...BLANK, text: String(value), value, repeats, doubt: whole };
  };

  /** Whether what was typed of one discharge fits together. */
  const resultDoubt = (
    row: number,
    typed: { kind: Kind; value: number },
    among: Map<string, Entry>,
  ) => {
    if (typed.kind !== 'capacity' && !SHOWN_KINDS.includes(typed.kind)) return null;
    const of = (kind: Kind) => {
      if (kind === typed.kind) return typed.value;
      const column = columns.findIndex((one) => one.kind === kind);
      return column < 0 ? null : (among.get(keyOf(row, column))?.value ?? null);
    };
    return checkTypedResult(
      {
        ah: of('capacity'),
        wh: of('energyShown'),
        currentA: of('currentShown'),
        hours: of('durationShown'),
      },
      voltages,
    );
  };

  /** Shows further columns with what is stored in them; those shown before give way. */
  const addColumns = (first: string) => {
    const wanted: readonly Kind[] =
      first === 'energyShown' ? SHOWN_KINDS : first === '' ? [] : ['energyBehindInverter'];
    const stays = (key: string) => Number(key.slice(key.indexOf(':') + 1)) < kinds.length;
    const kept = [...now.current].filter(([key]) => stays(key));
    now.current = new Map(kept);
    // What was typed in columns that go cannot be taken back from here any more.
    history.current = history.current.filter(({ key }) => stays(key));
    for (const key of asked.current.keys()) if (!stays(key)) asked.current.delete(key);
    setMore(wanted);
    show(
      initialEntries(
        cells,
        wanted.map((kind) => COLUMN[kind]),
        purpose,
        kinds.length,
      ),
    );
  };

  /** Voltages of another purpose are shown in place of those that were. */
  const choosePurpose = (next: ReadingPurpose) => {
    const column = columns.findIndex(({ kind }) => kind === 'openCircuitVoltage');
    const isVoltage = (key: string) => Number(key.slice(key.indexOf(':') + 1)) === column;
    typed.current.set(
      purpose,
      [...now.current].filter(([key]) => isVoltage(key)),
    );
    now.current = new Map([...now.current].filter(([key]) => !isVoltage(key)));
    history.current = [];
    asked.current.clear();
    setPurpose(next);
    show(
      typed.current.get(next) ??
        initialEntries(cells, columns, next).filter(([key]) => isVoltage(key)),
    );
  };

  const instrumentFor = (kind: Kind): number | null => {
    const chosen = instruments.find((row) => String(row.id) === instrument);
    return chosen?.kind === METER_OF[kind] ? chosen.id : null;
  };

  const send = (changes: [string, Entry][]) => {
    push(
      changes.map(([key, entry]): PendingReading => {
        const [row, column] = key.split(':').map(Number) as [number, number];
        const { kind } = columns[column]!;
        return {
          cellId: cells[row]!.id,
          kind,
          value: entry.value,
          decimals:
            entry.value === null
              ? 0
              : Math.max(...(entry.repeats ?? [entry.value]).map(decimalsIn)),
          repeats: entry.repeats,
          probe: kind === 'acResistance' ? probe : null,
          purpose,
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
    const before = now.current.get(key) ?? BLANK;
    if (text.trim() === before.text && !before.problem && !(before.doubt && !before.kept))
      return true;
    const stillAsked = before.doubt && !before.kept && text.trim() === before.text;
    const after: Entry = stillAsked
      ? { ...before, kept: true }
      : judged(row, column, text, now.current);
    show([[key, after]]);
    if (after.problem) return false;
    // A value under question is not stored; what stood here before it is what undo brings back.
    const stored = asked.current.get(key) ?? before;
    if (after.doubt && !after.kept) {
      asked.current.set(key, stored);
      beep();
      return false;
    }
    asked.current.delete(key);
    if (after.value === stored.value) return true;
    history.current.push({ key, before: stored });
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
    if (!commit(row, column, input.value)) return;
    if (event.key !== 'Enter' || walk === 'down') return focus(row + move[0], column + move[1]);
    const way = columns.flatMap(({ kind }, i) =>
      walk === 'all' || PAIR.includes(kind) ? [i] : [],
    );
    const next = way.find((i) => i > column);
    focus(next === undefined ? row + 1 : row, next ?? way[0]!);
  };
  useScans((code) => {
    const row = cells.findIndex((cell) => cell.label === code || cell.number === code);
    if (row < 0) return `${code} is on no cell of this lot.`;
    focus(row, 0);
    return null;
  });

  const onPaste = (event: ClipboardEvent, row: number, column: number) => {
    const rows = event.clipboardData
      .getData('text')
      .replace(/\r/g, '')
      .replace(/\n$/, '')
      .split('\n')
      .map((line) => line.split('\t'));
    if (rows.length === 1 && rows[0]!.length === 1) return;
    event.preventDefault();
    const among = new Map(now.current);
    const changes: [string, Entry][] = [];
    rows.forEach((texts, r) =>
      texts.forEach((text, c) => {
        if (row + r >= cells.length || column + c >= columns.length || text.trim() === '') return;
        const key = keyOf(row + r, column + c);
        const entry = judged(row + r, column + c, text, among);
        among.set(key, entry);
        changes.push([key, entry]);
      }),
    );
    for (const [key, entry] of changes) {
      const before = now.current.get(key) ?? BLANK;
      if (entry.doubt || entry.problem) asked.current.set(key, asked.current.get(key) ?? before);
      else history.current.push({ key, before });
    }
    show(changes);
    send(changes.filter(([, entry]) => !entry.problem && !entry.doubt));
  };

  const template = {
    gridTemplateColumns: `11rem repeat(${columns.length}, minmax(${columns.length > 3 ? 9 : 11}rem, 1fr))`,
  };
  const waiting = [...entries].filter(
    ([, entry]) => entry.problem || (entry.doubt && !entry.kept),
  ).length;
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-4">
        <Label text="Read with">
          <Choice className="min-w-56" value={instrument} onValue={(next) => setInstrument(next)}>
            <Option value="">A meter not described</Option>
            {instruments.map((row) => (
              <Option key={row.id} value={row.id}>
                {row.name}
              </Option>
            ))}
          </Choice>
        </Label>
        {mayChoose && (
          <Label text="Voltages are taken">
            <Choice value={purpose} onValue={(next) => choosePurpose(next as ReadingPurpose)}>
              {READING_PURPOSE_CODES.map((code) => (
                <Option key={code} value={code}>
                  {READING_PURPOSES[code].words}
                </Option>
              ))}
            </Choice>
          </Label>
        )}
        <Label text="Enter goes">
          <Choice value={walk} onValue={(next) => setWalk(next as typeof walk)}>
            <Option value="down">down the column</Option>
            <Option value="pair">OCV and AC, then the next cell</Option>
            <Option value="all">across all, then the next cell</Option>
          </Choice>
        </Label>
        {kinds.includes('acResistance') && (
          <Label text="AC probes are">
            <Choice value={probe} onValue={(next) => setProbe(next as ProbePlace)}>
              <Option value="terminal">on the terminals</Option>
              <Option value="bolt">on the bolts</Option>
              <Option value="bar">on the bars</Option>
            </Choice>
          </Label>
        )}
        {kinds.includes('capacity') && (
          <Label text="More columns">
            <Choice value={more[0] ?? ''} onValue={(next) => addColumns(next)}>
              <Option value="">none</Option>
              <Option value="energyShown">energy, current and time as shown</Option>
              <Option value="energyBehindInverter">energy behind an inverter</Option>
            </Choice>
          </Label>
        )}
        {mayChoose && (
          <p className="max-w-60 text-[0.82rem] text-quiet">
            A voltage {READING_PURPOSES[purpose].words} {READING_PURPOSES[purpose].says}.
          </p>
        )}
        <OutboxLine state={state} />
        {waiting > 0 && (
          <p className="text-doubt">
            {waiting} {waiting === 1 ? 'value waits' : 'values wait'} for an answer.
          </p>
        )}
      </div>
      <div ref={scroller} className="panel max-h-[calc(100dvh-9rem)] overflow-auto">
        <div
          style={template}
          className="sticky top-0 z-10 grid border-b border-strong-rule bg-sheet text-[0.82rem] font-semibold text-quiet"
        >
          <span className="px-3 py-2">Cell</span>
          {columns.map((column) => (
            <span key={column.kind} className="px-3 py-2 text-right">
              {column.head}
              {column.bareUnits.length > 1 && (
                <Choice
                  className="ml-2 inline-flex min-h-7 w-auto border-rule px-1.5 py-0 font-normal"
                  label={`A bare number under ${column.head} is in`}
                  value={bare[column.kind] ?? column.bareUnits[0]!}
                  onValue={(next) => setBare({ ...bare, [column.kind]: next })}
                >
                  {column.bareUnits.map((unit) => (
                    <Option key={unit} value={unit}>
                      typed in {unit}
                    </Option>
                  ))}
                </Choice>
              )}
            </span>
          ))}
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: row, start }) => (
            <div
              key={cells[row]!.id}
              ref={virtual.measureElement}
              data-index={row}
              className={`absolute inset-x-0 grid border-b border-rule ${at.row === row ? 'bg-ember-wash' : ''}`}
              style={{ ...template, transform: `translateY(${start}px)` }}
            >
              <span className="px-3 py-2 font-medium">
                {cells[row]!.number}
                <span className="block truncate text-[0.72rem] font-normal text-quiet">
                  {cells[row]!.label}
                </span>
              </span>
              {columns.map((column, c) => (
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
                      text !== (now.current.get(keyOf(row, c)) ?? BLANK).text &&
                      commit(row, c, text)
                    )
                  }
                  onKeep={() => {
                    if (commit(row, c, now.current.get(keyOf(row, c))!.text)) focus(row + 1, c);
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
