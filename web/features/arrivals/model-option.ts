import type { Chemistry } from '@dusk-tally/core/chemistry';

/** A cell model that may be chosen, with what its data sheet says. */
export interface ModelOption {
  id: number;
  name: string;
  chemistry: Chemistry;
  format: 'cylinder' | 'prism' | 'pouch';
  diameterMm: number | null;
  widthMm: number | null;
  thicknessMm: number | null;
  heightMm: number | null;
  massG: number | null;
  massTolerancePct: number | null;
  sizeTolerancePct: number | null;
  ratedAh: number | null;
  rateIt: number | null;
  cutoffV: number | null;
  chargeV: number | null;
  taperIt: number | null;
  restMinutes: number | null;
  temperatureC: number | null;
  acResistanceMohm: number | null;
  dcResistanceMohm: number | null;
  maxChargeA: number | null;
  maxDischargeA: number | null;
}
