import { findingKind, monthsBetween } from '@dusk-tally/core/arrivals';
import { median } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import type { CellArrivalRow, LotRow } from '@dusk-tally/store';

const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/** What counting, inspection, codes and first readings found, in sentences. */
export function arrivalLines(lot: LotRow, arrivals: readonly CellArrivalRow[]): string[] {
  const inspected = arrivals.filter((one) => one.inspected).length;
  const findings = new Map<string, number>();
  for (const { found: codes } of arrivals)
    for (const code of JSON.parse(codes) as string[])
      findings.set(code, (findings.get(code) ?? 0) + 1);
  const ages = arrivals.flatMap(({ producedOn, producedUntil }) =>
    lot.arrivedOn && producedOn && producedUntil
      ? [monthsBetween(producedUntil, lot.arrivedOn)]
      : [],
  );
  const volts = arrivals.flatMap(({ firstV }) => firstV ?? []);
  return [
    lot.orderedQuantity === null || lot.takenAs === 'packs'
      ? `Counted: ${lot.quantity} cells.`
      : `Counted: ${lot.quantity} cells of ${lot.orderedQuantity} ordered.`,
    `Inspected: ${counted(inspected, 'cell', 'cells')}.`,
    ...[...findings]
      .sort((a, b) => b[1] - a[1])
      .map(([code, n]) => `Found: ${findingKind(code).words}, ${counted(n, 'cell', 'cells')}.`),
    ...(ages.length > 0
      ? [
          `Produced ${formatNumber(median(ages), 0)} months before arrival by their codes (middle of ${ages.length}).`,
        ]
      : []),
    ...(volts.length > 0
      ? [
          `First voltages: ${formatNumber(Math.min(...volts), 3)} V to ${formatNumber(Math.max(...volts), 3)} V (${volts.length}).`,
        ]
      : []),
  ];
}
