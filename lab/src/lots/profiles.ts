import {
  CHEMISTRIES,
  CHEMISTRY_PROFILES,
  type Chemistry,
  type ChemistryProfile,
} from '@dusk-tally/core/chemistry';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, question } from '../shared';

/** Profiles of some chemistries: the lab's own where a lead set one, else the house default. */
export async function profilesOf(
  lab: Lab,
  chemistries: readonly Chemistry[],
  transaction?: Transaction,
): Promise<Map<Chemistry, ChemistryProfile>> {
  const own = await lab.store.arrivals.chemistryProfiles.find(
    { chemistry: [...new Set(chemistries)] },
    { transaction, order: [['id', 'ASC']] },
  );
  const newest = new Map(own.map(({ chemistry, profile }) => [chemistry, profile]));
  return new Map(
    chemistries.map((chemistry) => [
      chemistry,
      newest.get(chemistry) ?? CHEMISTRY_PROFILES[chemistry],
    ]),
  );
}

/** A chemistry's profile: the lab's own where a lead set one, else the house default. */
export const profileOf = async (
  lab: Lab,
  chemistry: Chemistry,
  transaction?: Transaction,
): Promise<ChemistryProfile> => (await profilesOf(lab, [chemistry], transaction)).get(chemistry)!;

export interface ProfileView {
  profile: ChemistryProfile;
  /** Id of the entry that counts; null for the house default. Named when changing it. */
  entryId: number | null;
  history: { id: number; profile: ChemistryProfile; reason: string; person: string; at: Date }[];
}

/** All chemistries with the profile that counts and who changed it, newest first. */
export const listProfiles = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<ProfileView[]> => {
    const [rows, people] = await Promise.all([
      lab.store.arrivals.chemistryProfiles.find({}, { order: [['id', 'DESC']] }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    return CHEMISTRIES.map((chemistry) => {
      const own = rows.filter((row) => row.chemistry === chemistry);
      return {
        profile: own[0]?.profile ?? CHEMISTRY_PROFILES[chemistry],
        entryId: own[0]?.id ?? null,
        history: own.map(({ id, profile, reason, personId, at }) => ({
          id,
          profile,
          reason,
          person: name.get(personId) ?? '',
          at,
        })),
      };
    });
  },
});
