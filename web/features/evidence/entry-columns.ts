import type { Doubt, TypedColumn } from '@dusk-tally/core/arrivals';
import type { TypedQuantity } from '@dusk-tally/core/units';
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
};
export const METER_OF: Record<Kind, string> = {
  acResistance: 'acMeter',
  openCircuitVoltage: 'voltmeter',
  capacity: 'tester',
  mass: 'scale',
  thickness: 'caliper',
};

export interface GridCell {
  id: number;
  number: string;
  label: string | null;
  readings: Partial<Record<string, { value: number; decimals: number }>>;
}

export interface Entry {
  text: string;
  value: number | null;
  problem: string | null;
  doubt: Doubt | null;
  /** The doubt was answered with "keep". */
  kept: boolean;
}

export const keyOf = (row: number, column: number) => `${row}:${column}`;
export const decimalsIn = (value: number): number =>
  Math.min(9, (/\.(\d+)$/.exec(String(value))?.[1] ?? '').length);
export const BLANK: Entry = { text: '', value: null, problem: null, doubt: null, kept: false };

/** What is stored already, as entries. */
export function initialEntries(cells: GridCell[], columns: GridColumn[]): Map<string, Entry> {
  const entries = new Map<string, Entry>();
  cells.forEach((cell, row) =>
    columns.forEach(({ kind }, column) => {
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
