/** Chemistries the lab knows profiles of (handbook, chapter 3). */
export const CHEMISTRIES = ['LFP', 'NMC', 'LCO', 'LMO', 'LTO', 'sodium-ion'] as const;
/** Name of a chemistry. */
export type Chemistry = (typeof CHEMISTRIES)[number];

/** House defaults of a chemistry (handbook, chapter 1, "Is the claim possible at all?"). */
export interface ChemistryProfile {
  chemistry: Chemistry;
  label: string;
  /** Most energy per envelope volume any such cell holds, Wh/L. */
  ceilingWhPerL: number;
  /** Most energy per mass, Wh/kg. */
  ceilingWhPerKg: number;
  nominalV: number;
  chargeV: number;
  /** Lowest usual cut-off, V. */
  cutoffV: number;
  storageV: readonly [number, number];
  /** Open-circuit voltage one hour after a full charge, V. */
  fullOcvV: readonly [number, number];
}

/** All profiles, by chemistry. NMC stands for NMC and NCA. */
export const CHEMISTRY_PROFILES: Record<Chemistry, ChemistryProfile> = {
  LFP: {
    chemistry: 'LFP',
    label: 'LFP',
    ceilingWhPerL: 470,
    ceilingWhPerKg: 215,
    nominalV: 3.2,
    chargeV: 3.65,
    cutoffV: 2.5,
    storageV: [3.25, 3.3],
    fullOcvV: [3.33, 3.45],
  },
  NMC: {
    chemistry: 'NMC',
    label: 'NMC / NCA',
    ceilingWhPerL: 850,
    ceilingWhPerKg: 320,
    nominalV: 3.6,
    chargeV: 4.2,
    cutoffV: 2.5,
    storageV: [3.7, 3.8],
    fullOcvV: [4.15, 4.2],
  },
  LCO: {
    chemistry: 'LCO',
    label: 'LCO',
    ceilingWhPerL: 800,
    ceilingWhPerKg: 280,
    nominalV: 3.7,
    chargeV: 4.2,
    cutoffV: 2.75,
    storageV: [3.75, 3.85],
    fullOcvV: [4.15, 4.2],
  },
  LMO: {
    chemistry: 'LMO',
    label: 'LMO',
    ceilingWhPerL: 480,
    ceilingWhPerKg: 170,
    nominalV: 3.8,
    chargeV: 4.2,
    cutoffV: 2.75,
    storageV: [3.8, 3.9],
    fullOcvV: [4.15, 4.2],
  },
  LTO: {
    chemistry: 'LTO',
    label: 'LTO',
    ceilingWhPerL: 200,
    ceilingWhPerKg: 115,
    nominalV: 2.3,
    chargeV: 2.8,
    cutoffV: 1.5,
    storageV: [2.25, 2.35],
    fullOcvV: [2.6, 2.75],
  },
  'sodium-ion': {
    chemistry: 'sodium-ion',
    label: 'Sodium-ion',
    ceilingWhPerL: 360,
    ceilingWhPerKg: 180,
    nominalV: 3.0,
    chargeV: 3.95,
    cutoffV: 1.5,
    storageV: [2.9, 3.1],
    fullOcvV: [3.75, 3.92],
  },
};

/**
 * What is wrong with a profile a lab wrote, or null.
 *
 * Voltages must rise from cut-off over storage to charge, with the nominal one between cut-off
 * and charge; ceilings must be above 0.
 */
export function profileProblem(profile: ChemistryProfile): string | null {
  const { ceilingWhPerL, ceilingWhPerKg, nominalV, chargeV, cutoffV, storageV, fullOcvV } = profile;
  const numbers = [ceilingWhPerL, ceilingWhPerKg, nominalV, chargeV, cutoffV];
  if (![...numbers, ...storageV, ...fullOcvV].every((value) => value > 0 && Number.isFinite(value)))
    return 'Expected every value above 0.';
  if (storageV[0] > storageV[1] || fullOcvV[0] > fullOcvV[1])
    return 'Expected the lower voltage of a range first.';
  if (!(cutoffV < nominalV && nominalV < chargeV))
    return `Expected cut-off < nominal < charge voltage; found ${cutoffV}, ${nominalV} and ${chargeV} V.`;
  if (!(cutoffV < storageV[0] && storageV[1] < chargeV))
    return `Expected the storage voltage between cut-off and charge; found ${storageV[0]} to ${storageV[1]} V.`;
  if (fullOcvV[1] > chargeV)
    return `Expected the full cell’s rest voltage at or below the charge voltage of ${chargeV} V; found ${fullOcvV[1]} V.`;
  return null;
}
