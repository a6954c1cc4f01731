import { describe, expect, it } from 'vitest';
import {
  CHEMISTRIES,
  CHEMISTRY_PROFILES,
  type ChemistryProfile,
  profileProblem,
} from '../src/chemistry';

const LFP = CHEMISTRY_PROFILES.LFP;
const said = (more: Partial<ChemistryProfile>) => profileProblem({ ...LFP, ...more });

describe('a profile a lab wrote', () => {
  it.each(CHEMISTRIES)('what ships for %s has nothing wrong with it', (chemistry) => {
    expect(CHEMISTRY_PROFILES[chemistry].chemistry).toBe(chemistry);
    expect(profileProblem(CHEMISTRY_PROFILES[chemistry])).toBeNull();
  });
  it.each(['ceilingWhPerL', 'ceilingWhPerKg', 'nominalV', 'chargeV', 'cutoffV'] as const)(
    '%s is above 0, and a number',
    (name) => {
      for (const value of [0, -1, NaN, Infinity])
        expect(said({ [name]: value })).toBe('Expected every value above 0.');
    },
  );
  it('so are both ends of its ranges', () => {
    for (const range of [
      [0, 3.3],
      [3.2, NaN],
      [-1, 3.3],
    ] as const) {
      expect(said({ storageV: range })).toBe('Expected every value above 0.');
      expect(said({ fullOcvV: range })).toBe('Expected every value above 0.');
    }
  });
  it('ranges go upwards, or are one voltage', () => {
    expect(said({ storageV: [3.31, 3.3] })).toBe('Expected the lower voltage of a range first.');
    expect(said({ fullOcvV: [3.4, 3.33] })).toBe('Expected the lower voltage of a range first.');
    expect(said({ storageV: [3.3, 3.3], fullOcvV: [3.4, 3.4] })).toBeNull();
  });
  it('cut-off, nominal and charge voltage rise', () => {
    const order = 'Expected cut-off < nominal < charge voltage; found';
    expect(said({ cutoffV: 3.2 })).toBe(`${order} 3.2, 3.2 and 3.65 V.`);
    expect(said({ nominalV: 3.65 })).toBe(`${order} 2.5, 3.65 and 3.65 V.`);
    expect(said({ nominalV: 2.4 })).toBe(`${order} 2.5, 2.4 and 3.65 V.`);
  });
  it('storage lies between cut-off and charge, the full cell at most at the charge voltage', () => {
    const between = 'Expected the storage voltage between cut-off and charge; found';
    expect(said({ storageV: [2.5, 3.3] })).toBe(`${between} 2.5 to 3.3 V.`);
    expect(said({ storageV: [3.2, 3.65] })).toBe(`${between} 3.2 to 3.65 V.`);
    expect(said({ fullOcvV: [3.4, 3.66] })).toBe(
      'Expected the full cell’s rest voltage at or below the charge voltage of 3.65 V; found 3.66 V.',
    );
    expect(said({ fullOcvV: [3.4, 3.65] })).toBeNull();
  });
});
