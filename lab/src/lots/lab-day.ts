import { dayIn } from '@dusk-tally/core/units';
import type { Transaction } from '@dusk-tally/store';
import { type Lab, LabError } from '../shared';

/** The lab’s own time zone, as an IANA name. */
export const labTimeZone = async (lab: Lab, transaction?: Transaction): Promise<string> =>
  (await lab.store.settings.one({ id: 1 }, { transaction }))?.timeZone ?? 'UTC';

/** Day in the lab’s own time zone, YYYY-MM-DD. @param at today where none is given. */
export const labDay = async (lab: Lab, transaction?: Transaction, at?: Date): Promise<string> =>
  dayIn(await labTimeZone(lab, transaction), at ?? lab.now());

/**
 * A day on which something arrived has come.
 * @throws LabError for one to come, of the field `arrivedOn`.
 */
export async function requireCome(
  lab: Lab,
  arrivedOn: string | null,
  transaction: Transaction,
): Promise<void> {
  if (arrivedOn === null) return;
  const today = await labDay(lab, transaction);
  if (arrivedOn > today)
    throw new LabError(
      'invalid',
      `Expected a day that has come, ${today} at the latest; leave it empty until the lot is here.`,
      { field: 'arrivedOn' },
    );
}
