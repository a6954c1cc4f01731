import type { Gate } from '@dusk-tally/core/arrivals';
import type { CellRow } from '@dusk-tally/store';
import type { Lab } from '../shared';
import { arrivalContext, arrivalRow } from './refresh-arrivals';

/** A gate a cell came to, when and by whose entry. */
export interface GateChange {
  gate: Gate;
  at: Date;
  personId: number;
}

/**
 * The gate a cell came to the lab with, and those it went through, from the entries of its arrival in
 * the order they were made.
 */
export async function gateChanges(
  lab: Lab,
  cell: CellRow,
): Promise<{ first: Gate; changes: GateChange[] }> {
  const { arrivals, readings } = lab.store;
  const where = { cellId: cell.id };
  const [context, entries, recoveries, voltages] = await Promise.all([
    arrivalContext(lab, cell.lotId),
    arrivals.inspections.find(where, { order: [['id', 'ASC']] }),
    arrivals.recoveries.find(where, { order: [['id', 'ASC']] }),
    readings.find(
      { ...where, kind: 'openCircuitVoltage', purpose: 'arrival' },
      { order: [['id', 'ASC']] },
    ),
  ]);
  const moments = [...entries, ...recoveries, ...voltages].sort(
    (a, b) => a.at.getTime() - b.at.getTime(),
  );
  const first = arrivalRow(context, cell, { entries: [], recoveries: [], readings: [] }).gate;
  const changes: GateChange[] = [];
  for (const { at, personId } of moments) {
    const until = <T extends { at: Date }>(rows: readonly T[]): T[] =>
      rows.filter((row) => row.at <= at);
    const { gate } = arrivalRow(context, cell, {
      entries: until(entries),
      recoveries: until(recoveries),
      readings: until(voltages),
    });
    if ((changes[changes.length - 1]?.gate ?? first) !== gate) changes.push({ gate, at, personId });
  }
  return { first, changes };
}
