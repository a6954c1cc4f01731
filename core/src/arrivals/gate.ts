import type { Severity } from './inspection';
import type { TriageResult } from './triage';

/** Whether a cell may go on a tester, and what keeps it from there; the first that holds. */
export const GATES = [
  'quarantined',
  'discard',
  'blocked',
  'waitsForLead',
  'recovering',
  'open',
  'ready',
] as const;
/** Whether a cell may go on a tester, as one of the states an allow-list is made of (handbook, Safety). */
export type Gate = (typeof GATES)[number];

/** Each state of the gate as people say it. */
export const GATE_WORDS: Record<Gate, string> = {
  quarantined: 'in quarantine',
  discard: 'to discard',
  blocked: 'to be made good',
  waitsForLead: 'waits for a lead',
  recovering: 'in slow recovery',
  open: 'arrival not finished',
  ready: 'ready for the bench',
};

/** Gates from which a cell may go on a tester; everything else, known or not, allows nothing. */
const MAY_GO_ON_TESTER: ReadonlySet<string> = new Set<Gate>(['open', 'ready']);

/** Whether a cell at a gate may go on a tester (handbook, Safety). @param gate null where nobody derived it. */
export const mayGoOnTester = (gate: string | null | undefined): boolean =>
  typeof gate === 'string' && MAY_GO_ON_TESTER.has(gate);

/** Steps of receiving that a cell passes itself. */
export type CellStep = 'inspection' | 'firstVoltage';

/**
 * Where a cell stands between the box and the bench.
 * @param cell worst open finding, whether it was looked at, its triage (null without a voltage),
 *   and the steps the lab left out for its lot.
 */
export function gateOf(cell: {
  worst: Severity | null;
  inspected: boolean;
  triage: TriageResult | null;
  skipped: readonly CellStep[];
}): Gate {
  const { worst, inspected, triage, skipped } = cell;
  if (worst === 'stop') return 'quarantined';
  if (triage?.outcome === 'discard') return 'discard';
  if (worst === 'serious') return 'blocked';
  if (triage?.outcome === 'waitsForLead') return 'waitsForLead';
  if (triage?.outcome === 'recovering') return 'recovering';
  if (!inspected && !skipped.includes('inspection')) return 'open';
  if (!triage && !skipped.includes('firstVoltage')) return 'open';
  return 'ready';
}
