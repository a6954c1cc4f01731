import type { InheritedHints } from './claim-fields';

interface Sheet {
  ratedAh: number | null;
  rateIt: number | null;
  cutoffV: number | null;
  chargeV: number | null;
  taperIt: number | null;
  temperatureC: number | null;
  restMinutes: number | null;
  acResistanceMohm: number | null;
  dcResistanceMohm: number | null;
  maxChargeA: number | null;
  maxDischargeA: number | null;
  massG: number | null;
  massTolerancePct: number | null;
  sizeTolerancePct: number | null;
}

/** What stands in where a claim is silent, in grey, with where it comes from. */
export function inheritedHints(
  sheet: Sheet,
  profile: { cutoffV: number; chargeV: number },
): InheritedHints {
  const from = (value: number | null, source = 'data sheet') =>
    value === null ? undefined : `${value} (${source})`;
  return {
    capacity: {
      value: from(sheet.ratedAh),
      rateIt: from(sheet.rateIt),
      cutoffV: from(sheet.cutoffV) ?? from(profile.cutoffV, 'chemistry'),
      chargeV: from(sheet.chargeV) ?? from(profile.chargeV, 'chemistry'),
      taperIt: from(sheet.taperIt),
      temperatureC: from(sheet.temperatureC),
      restMinutes: from(sheet.restMinutes),
    },
    acResistance: { value: from(sheet.acResistanceMohm) },
    dcResistance: { value: from(sheet.dcResistanceMohm) },
    maxCharge: { value: from(sheet.maxChargeA) },
    maxDischarge: { value: from(sheet.maxDischargeA) },
    mass: { value: from(sheet.massG), tolerancePct: from(sheet.massTolerancePct) },
    size: { tolerancePct: from(sheet.sizeTolerancePct) },
  };
}
