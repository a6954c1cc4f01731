import type { Doubt, ReadingPurpose, TypedColumn } from '@dusk-tally/core/arrivals';
import { parseQuantity, type TypedQuantity } from '@dusk-tally/core/units';
import { medianOf } from '@dusk-tally/core/verdicts';
import type { PendingReading } from './entry-outbox';

export type Kind = PendingReading['kind'];

export interface GridColumn {
  kind: Kind;
  head: string;
  column: TypedColumn;
  quantity: TypedQuantity;
  /** Units a number without one may be meant in; the first is the stored one. */
  bareUnits: string[];
}

export const COLUMN: Record<Kind, GridColumn> = {
  acResistance: {
    kind: 'acResistance',
    head: 'AC resistance / mΩ',
    column: 'acResistanceMohm',
    quantity: 'resistanceMohm',
    bareUnits: ['mΩ', 'µΩ'],
  },
  openCircuitVoltage: {
    kind: 'openCircuitVoltage',
    head: 'OCV / V',
    column: 'ocvV',
    quantity: 'voltageV',
    bareUnits: ['V', 'mV'],
  },
  capacity: {
    kind: 'capacity',
    head: 'Capacity as shown by a tester / Ah',
    column: 'capacityAh',
    quantity: 'capacityAh',
    bareUnits: ['Ah', 'mAh'],
  },
  mass: { kind: 'mass', head: 'Mass / g', column: 'massG', quantity: 'massG', bareUnits: ['g'] },
  thickness: {
    kind: 'thickness',
    head: 'Thickness / mm',
    column: 'thicknessMm',
    quantity: 'lengthMm',
    bareUnits: ['mm'],
  },
  energyBehindInverter: {
    kind: 'energyBehindInverter',
    head: 'Energy behind an inverter / Wh',
    column: 'energyWh',
    quantity: 'energyWh',
    bareUnits: ['Wh', 'kWh'],
  },
  energyShown: {
    kind: 'energyShown',
    head: 'Energy as shown / Wh',
    column: 'energyWh',
    quantity: 'energyWh',
    bareUnits: ['Wh'],
  },
  currentShown: {
    kind: 'currentShown',
    head: 'Current as shown / A',
    column: 'currentA',
    quantity: 'currentA',
    bareUnits: ['A'],
  },
  durationShown: {
    kind: 'durationShown',
    head: 'Time as shown / h',
    column: 'durationH',
    quantity: 'durationH',
    bareUnits: ['h', 'min'],
  },
};
/** What a tester without a log shows beside the charge. */
export const SHOWN_KINDS: readonly Kind[] = ['energyShown', 'currentShown', 'durationShown'];
export const METER_OF: Record<Kind, string> = {
  acResistance: 'acMeter',
  openCircuitVoltage: 'voltmeter',
  capacity: 'tester',
  mass: 'scale',
  thickness: 'caliper',
  energyBehindInverter: 'tester',
  energyShown: 'tester',
  currentShown: 'tester',
  durationShown: 'tester',
};

interface StoredReading {
  value: number;
  decimals: number;
  repeats: number[] | null;
  clientKey: string;
}

export interface GridCell {
  id: number;
  number: string;
  label: string | null;
  readings: Partial<Record<string, StoredReading>>;
  /** Open-circuit voltages, by what they were taken for. */
  voltages: Partial<Record<ReadingPurpose, StoredReading>>;
}

export interface Entry {
  text: string;
  value: number | null;
  /** Digits after the point that were typed, in the stored unit. */
  decimals: number;
  /** Single readings whose median is the value; null for one. */
  repeats: number[] | null;
  problem: string | null;
  doubt: Doubt | null;
  /** The doubt was answered with "keep". */
  kept: boolean;
  /** What somebody else stored here while this was typed; null where nobody did. */
  clash: Clash | null;
  /** Who typed it, where it was somebody else while one looked on. */
  by: string | null;
}

/** A reading somebody else stored meanwhile. */
export interface Clash {
  person: string;
  /** Null where they took it back. */
  value: number | null;
  decimals: number;
  repeats: number[] | null;
  clientKey: string;
}

export const keyOf = (row: number, column: number) => `${row}:${column}`;
export const decimalsIn = (value: number): number =>
  Math.min(9, (/\.(\d+)$/.exec(String(value))?.[1] ?? '').length);
export const BLANK: Entry = {
  text: '',
  value: null,
  decimals: 0,
  repeats: null,
  problem: null,
  doubt: null,
  kept: false,
  clash: null,
  by: null,
};

/** One field holds up to so many readings of the same thing, parted by blanks. */
const MOST_REPEATS = 9;
const PARTED = /\s+(?=[+\-−]?[\d.,])|\s*[;/]\s*/;

export type ParsedEntry =
  | {
      ok: true;
      value: number;
      repeats: number[] | null;
      decimals: number;
      /** What may have been meant otherwise, asked before it is kept. */
      doubt?: string;
    }
  | { ok: false; message: string };

/** Reads a field: one value, or for resistances several whose median counts. */
export function parseEntry(
  text: string,
  { quantity, kind }: GridColumn,
  bareUnit: string,
): ParsedEntry {
  const parts = kind === 'acResistance' ? text.trim().split(PARTED) : [text.trim()];
  if (parts.length > MOST_REPEATS)
    return { ok: false, message: `Expected at most ${MOST_REPEATS} readings in one field.` };
  const unitTyped = /[^\d\s.,;/+−-]+\s*$/.exec(text)?.[0] ?? '';
  const values: number[] = [];
  let decimals = 0;
  let doubt: string | undefined;
  for (const part of parts) {
    const own = /[^\d\s.,+−-]/.test(part) ? part : `${part} ${unitTyped || bareUnit}`;
    const parsed = parseQuantity(own.trim(), quantity);
    if (!parsed.ok) return parsed;
    values.push(parsed.value);
    decimals = Math.max(decimals, parsed.decimals);
    doubt ??= parsed.doubt;
  }
  return values.length > 1
    ? { ok: true, value: medianOf(values), repeats: values, decimals, doubt }
    : { ok: true, value: values[0]!, repeats: null, decimals, doubt };
}

/** A stored reading as an entry; blank where it was taken back. */
export const entryOf = (
  reading: { value: number | null; decimals: number; repeats: number[] | null },
  by: string | null = null,
): Entry =>
  reading.value === null
    ? { ...BLANK, by }
    : {
        ...BLANK,
        text: reading.value.toFixed(reading.decimals),
        value: reading.value,
        decimals: reading.decimals,
        repeats: reading.repeats,
        by,
      };

/** A value as it was meant: zeros that were typed stay; a median may need a digit more. */
export const shownAsTyped = (value: number, decimals: number): string =>
  value.toFixed(Math.max(decimals, decimalsIn(value)));

/** Where a reading of a cell stands, voltages also by what they were taken for. */
export const readingPlace = (cellId: number, kind: Kind, purpose: ReadingPurpose): string =>
  `${cellId} ${kind} ${kind === 'openCircuitVoltage' ? purpose : ''}`;

/** Keys of the readings that stand where, as they were loaded. */
export function standingKeys(cells: readonly GridCell[]): Map<string, string> {
  const keys = new Map<string, string>();
  for (const { id, readings, voltages } of cells) {
    for (const [kind, reading] of Object.entries(readings))
      if (reading) keys.set(readingPlace(id, kind as Kind, 'arrival'), reading.clientKey);
    for (const [purpose, reading] of Object.entries(voltages))
      keys.set(
        readingPlace(id, 'openCircuitVoltage', purpose as ReadingPurpose),
        reading.clientKey,
      );
  }
  return keys;
}

/** What is stored already, as entries. */
export function initialEntries(
  cells: GridCell[],
  columns: GridColumn[],
  purpose: ReadingPurpose,
  firstColumn = 0,
): [string, Entry][] {
  const entries = new Map<string, Entry>();
  cells.forEach((cell, row) =>
    columns.forEach(({ kind }, i) => {
      const column = firstColumn + i;
      const reading = kind === 'openCircuitVoltage' ? cell.voltages[purpose] : cell.readings[kind];
      if (reading) entries.set(keyOf(row, column), entryOf(reading));
    }),
  );
  return [...entries];
}
