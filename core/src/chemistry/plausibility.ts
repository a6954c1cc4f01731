import { formatNumber } from '../units';
import { CHEMISTRY_PROFILES, type Chemistry, type ChemistryProfile } from './profiles';

/** Outer dimensions of a cell in millimetres. */
export type Envelope =
  | { shape: 'cylinder'; diameterMm: number; heightMm: number }
  | { shape: 'prism'; widthMm: number; thicknessMm: number; heightMm: number };

/**
 * Envelope volume in litres: π·(d/2)²·h for a cylinder, the box otherwise.
 * @example envelopeVolumeL({ shape: 'cylinder', diameterMm: 18, heightMm: 65 }) // 0.01654
 */
export function envelopeVolumeL(envelope: Envelope): number {
  return envelope.shape === 'cylinder'
    ? (Math.PI * (envelope.diameterMm / 2) ** 2 * envelope.heightMm) / 1e6
    : (envelope.widthMm * envelope.thicknessMm * envelope.heightMm) / 1e6;
}

/**
 * Envelope of a cylindrical size code: 26650 is 26 mm × 65.0 mm, 32700 is 32 mm × 70.0 mm.
 * @returns null when the text is no such code.
 * @example envelopeOfSizeCode('18650') // { shape: 'cylinder', diameterMm: 18, heightMm: 65 }
 */
export function envelopeOfSizeCode(code: string): Envelope | null {
  const match = /^(\d{2})(\d{3})$/.exec(code.trim());
  if (!match) return null;
  const diameterMm = Number(match[1]);
  const heightMm = Number(match[2]) / 10;
  return diameterMm >= 8 && heightMm >= 10 ? { shape: 'cylinder', diameterMm, heightMm } : null;
}

/** Whether a claim can be true for the cell's size and mass. */
export interface Plausibility {
  possible: boolean;
  /** Energy density the claim needs, Wh/L and Wh/kg; null when size or mass is unknown. */
  whPerL: number | null;
  whPerKg: number | null;
  /** Largest capacity that volume and mass would hold, Ah; null when neither is known. */
  largestAh: number | null;
  sentence: string;
}

/**
 * Whether a claimed capacity fits its size and mass: rated Ah × nominal V ÷ volume (and ÷ mass)
 * against the chemistry's ceiling (handbook, chapter 1).
 * @throws RangeError when the claimed capacity is not positive.
 * @example claimPlausibility({ ratedAh: 9.9, chemistry: 'NMC', envelope: envelopeOfSizeCode('18650') }).possible // false
 */
export function claimPlausibility(claim: {
  ratedAh: number;
  chemistry: Chemistry;
  envelope?: Envelope | null;
  massG?: number | null;
  /** The lab's own profile of the chemistry; absent, the house default. */
  profile?: ChemistryProfile;
}): Plausibility {
  if (!(claim.ratedAh > 0)) throw new RangeError('Expected a claimed capacity above 0 Ah.');
  const profile = claim.profile ?? CHEMISTRY_PROFILES[claim.chemistry];
  const energyWh = claim.ratedAh * profile.nominalV;
  const volumeL = claim.envelope ? envelopeVolumeL(claim.envelope) : null;
  const massKg = claim.massG ? claim.massG / 1000 : null;
  const whPerL = volumeL ? energyWh / volumeL : null;
  const whPerKg = massKg ? energyWh / massKg : null;
  const limits = [
    volumeL ? (profile.ceilingWhPerL * volumeL) / profile.nominalV : Infinity,
    massKg ? (profile.ceilingWhPerKg * massKg) / profile.nominalV : Infinity,
  ];
  const largestAh = Number.isFinite(Math.min(...limits)) ? Math.min(...limits) : null;
  const possible =
    (whPerL ?? 0) <= profile.ceilingWhPerL && (whPerKg ?? 0) <= profile.ceilingWhPerKg;
  return { possible, whPerL, whPerKg, largestAh, sentence: sentence() };

  function sentence(): string {
    if (largestAh === null)
      return 'Size and mass are not known, so the claim cannot be checked against them.';
    const byVolume = limits[0]! <= limits[1]!;
    const byVolumeWords =
      whPerL === null
        ? null
        : `${formatNumber(whPerL, 0)} Wh/L; ${profile.label} cells reach ${profile.ceilingWhPerL} Wh/L`;
    const byMassWords =
      whPerKg === null
        ? null
        : `${formatNumber(whPerKg, 0)} Wh/kg; ${profile.label} cells reach ${profile.ceilingWhPerKg} Wh/kg`;
    const other = byVolume ? byMassWords : byVolumeWords;
    const density = `${byVolume ? byVolumeWords : byMassWords}${other ? ` (and ${other})` : ''}`;
    const holder = byVolume ? 'this size' : 'this mass';
    const decimals = largestAh >= 100 ? 0 : 1;
    return possible
      ? `The claim needs ${density}: possible. At most ${formatNumber(largestAh, decimals)} Ah would fit ${holder}.`
      : `The claim needs ${density}: not possible. At most ${formatNumber(largestAh, decimals)} Ah would fit ${holder}.`;
  }
}
