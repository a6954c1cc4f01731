import type { ClaimConditions, ClaimKind, TerminalType } from '@dusk-tally/core/arrivals';
import type { Chemistry } from '@dusk-tally/core/chemistry';

/** `system` is no person: what the app does by itself. */
export interface SupplierRow {
  id: number;
  name: string;
  place: string | null;
  notes: string | null;
  createdAt: Date;
  version: number;
  /** The supplier this one turned out to be; null for one that stands by itself. */
  mergedInto: number | null;
}
export interface CellModelRow {
  id: number;
  name: string;
  chemistry: Chemistry;
  format: 'cylinder' | 'prism' | 'pouch';
  diameterMm: number | null;
  widthMm: number | null;
  thicknessMm: number | null;
  heightMm: number | null;
  massG: number | null;
  ratedAh: number | null;
  rateIt: number | null;
  cutoffV: number | null;
  chargeV: number | null;
  temperatureC: number | null;
  acResistanceMohm: number | null;
  maxChargeA: number | null;
  maxDischargeA: number | null;
  dcResistanceMohm: number | null;
  /** Charge ends at this current, It. */
  taperIt: number | null;
  restMinutes: number | null;
  massTolerancePct: number | null;
  sizeTolerancePct: number | null;
  terminalType: TerminalType | null;
  /** As the data sheet says; never guessed. */
  terminalTorqueNm: number | null;
  /** Clamping force of the data sheet for tests, N; null where it states none. */
  clampForceN: number | null;
  createdAt: Date;
  version: number;
}
export interface LotRow {
  id: number;
  code: string;
  title: string;
  supplierId: number;
  modelId: number;
  orderedOn: string | null;
  arrivedOn: string | null;
  takenAs: 'cells' | 'packs';
  /** Ordered, as the order says; cells, or packs when taken as packs. */
  orderedQuantity: number | null;
  /** Cells that are here. */
  quantity: number;
  /** Decimal text, in `currency`, as all money of a lot. */
  price: string | null;
  discount: string | null;
  freight: string | null;
  duty: string | null;
  fees: string | null;
  currency: string;
  cancelledAt: Date | null;
  cancelReason: string | null;
  createdAt: Date;
  /** Of the try that took it in; null where none was given. */
  clientKey: string | null;
  version: number;
}
export interface ClaimItemRow {
  id: number;
  lotId: number;
  kind: ClaimKind;
  value: number | null;
  unit: string | null;
  text: string | null;
  conditions: ClaimConditions;
  version: number;
}
export interface CellRow {
  id: number;
  lotId: number;
  /** Place in the lot, from 1. */
  position: number;
  number: string;
  /** The code or mark the cell came with or was given by hand. */
  label: string | null;
  box: string | null;
  packId: number | null;
  /** Parallel group in its pack, from 1. */
  groupIndex: number | null;
  harvest: 'good' | 'questionable' | 'dead' | null;
  /** Kept to compare channels since this day; null for a cell like any other. */
  controlSince: string | null;
  /** Its joint was cleaned and tightened again; later runs are after that. */
  retightenedAt: Date | null;
  version: number;
}
