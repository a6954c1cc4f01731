import type { Column, Role } from './roles';
import { columnUnit } from './units-of-columns';

/** How a person assigned the columns of a log that was not, or wrongly, recognised. */
export interface LogMapping {
  /** One per column of the table, in file order; unit as text, null for none. */
  columns: { role: Role; unit: string | null }[];
  /** Whether positive current discharges; null leaves it to the reader. */
  positiveDischarges: boolean | null;
}

/** Roles a person can give a column, in the order they are offered. */
export const MAPPABLE_ROLES: readonly Role[] = [
  'ignored',
  'time',
  'date',
  'voltage',
  'current',
  'temperature',
  'counterAh',
  'counterWh',
  'power',
  'mode',
  'step',
  'cellVoltage',
];

/** Units a column of each role may be in; none for those without. */
export const UNITS_OF_ROLE: Partial<Record<Role, readonly string[]>> = {
  time: ['s', 'ms', 'min', 'h', 'd'],
  voltage: ['V', 'mV'],
  cellVoltage: ['V', 'mV'],
  current: ['A', 'mA'],
  temperature: ['°C', 'K', '°F'],
  counterAh: ['Ah', 'mAh'],
  counterWh: ['Wh', 'mWh'],
  power: ['W', 'mW'],
};

/** A short name of a header’s shape: the same for every file with these columns. */
export function shapeOfHeader(header: readonly string[], delimiter: string): string {
  const text = [delimiter, ...header.map((cell) => cell.trim().toLowerCase())].join('\u0001');
  // FNV-1a, twice with different beginnings: names, not secrets.
  const hash = (from: number) => {
    let value = from;
    for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193);
    return (value >>> 0).toString(16).padStart(8, '0');
  };
  return `${header.length}-${hash(0x811c9dc5)}${hash(0x2bd1c54f)}`;
}

/** Columns as a person assigned them; those beyond the mapping are not used. */
export function mappedColumns(header: readonly string[], mapping: LogMapping): Column[] {
  return header.map((cell, index) => {
    const own = mapping.columns[index];
    return {
      index,
      header: cell.trim(),
      role: own?.role ?? 'ignored',
      unit: own?.unit ? columnUnit(own.unit) : null,
    };
  });
}
