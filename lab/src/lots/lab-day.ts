import { dayIn } from '@dusk-tally/core/units';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** The lab’s own time zone, as an IANA name. */
export const labTimeZone = async (lab: Lab, transaction?: Transaction): Promise<string> =>
  (await lab.store.settings.one({ id: 1 }, { transaction }))?.timeZone ?? 'UTC';

/** Day in the lab’s own time zone, YYYY-MM-DD. @param at today where none is given. */
export const labDay = async (lab: Lab, transaction?: Transaction, at?: Date): Promise<string> =>
  dayIn(await labTimeZone(lab, transaction), at ?? lab.now());
