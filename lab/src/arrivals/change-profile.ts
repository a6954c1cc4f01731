import {
  CHEMISTRY_PROFILES,
  type Chemistry,
  type ChemistryProfile,
  profileProblem,
} from '@dusk-tally/core/chemistry';
import { profileInput } from '../inputs';
import { LabError, procedure } from '../shared';

/**
 * Sets a chemistry's profile; earlier ones stay readable. What is derived from
 * it in lots of that chemistry is made new in the same transaction.
 */
export const setProfile = procedure({
  role: 'lead',
  input: profileInput,
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
    changed,
  }): Promise<{ chemistry: Chemistry }> => {
    const table = lab.store.arrivals.chemistryProfiles;
    const { chemistry } = input;
    const now = await table.one(
      { chemistry },
      { transaction, order: [['id', 'DESC']], forUpdate: true },
    );
    if ((now?.id ?? null) !== input.entryId)
      throw new LabError(
        'conflict',
        'Someone else changed this profile while you were at it. Nothing was saved; reload to start from theirs.',
        { current: { entryId: now?.id ?? null, profile: now?.profile } },
      );
    const profile: ChemistryProfile = {
      chemistry,
      label: CHEMISTRY_PROFILES[chemistry].label,
      ...input.profile,
    };
    const problem = profileProblem(profile);
    if (problem) throw new LabError('invalid', problem);
    const before = now?.profile ?? CHEMISTRY_PROFILES[chemistry];
    await table.insert(
      { chemistry, profile, reason: input.reason, personId: actor.id, at: lab.now() },
      transaction,
    );
    changed({ what: 'chemistryProfile', chemistry });
    await audit({
      act: 'changed chemistry profile',
      subjectType: 'chemistry',
      subjectId: chemistry,
      before,
      after: { ...profile, reason: input.reason },
    });
    return { chemistry };
  },
});
