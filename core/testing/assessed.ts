import type { ClaimConditions, ClaimKind } from '../src/arrivals';
import {
  assessCell,
  type AssessedItem,
  type CapacityEvidence,
  type CellEvidence,
  type ClaimedItem,
} from '../src/verdicts';

export const exact = (value: number, u: number | null) => ({
  value,
  standardUncertainty: u,
  bound: 'exact' as const,
});
export const measured = (value: number, u: number | null) => ({ ...exact(value, u), figureId: 7 });

export const capacity = (
  value: number,
  more: Partial<CapacityEvidence> = {},
): CapacityEvidence => ({
  order: 1,
  value,
  bound: 'exact',
  held: false,
  comparable: true,
  typed: false,
  raw: exact(value, 0.2),
  atClaim: exact(value, 0.2),
  differences: [],
  corrections: [],
  holds: [],
  ...more,
});

export const evidence = (more: Partial<CellEvidence> = {}): CellEvidence => ({
  capacities: [],
  acResistanceMohm: null,
  dcResistancesMohm: [],
  massG: null,
  thicknessMm: null,
  produced: null,
  currents: [],
  heatAlarm: null,
  isInspected: true,
  findings: [],
  arrivedOn: '2026-09-01',
  ...more,
});

export const claimed = (
  kind: ClaimKind,
  said: number | string,
  conditions: ClaimConditions = {},
): ClaimedItem => ({
  kind,
  value: typeof said === 'number' ? said : null,
  text: typeof said === 'string' ? said : null,
  conditions,
});

export const assess = (claim: ClaimedItem, more: Partial<CellEvidence>): AssessedItem =>
  assessCell(evidence(more), [claim], 1).items.find(({ item }) => item === claim.kind)!;
