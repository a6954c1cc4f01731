import type { Role } from '@dusk-tally/store';
import { type Lab, systemActor, writeAudit } from '../shared';
import { passwordFits } from './passwords';

/** Password of all demo accounts; offered on the sign-in page in demo mode only. */
export const DEMO_PASSWORD = 'tally-at-dusk';

export const DEMO_PEOPLE: { email: string; name: string; role: Exclude<Role, 'system'> }[] = [
  { email: 'admin@fennick.example', name: 'Odile Marrack', role: 'admin' },
  { email: 'lead@fennick.example', name: 'Ines Tregarth', role: 'lead' },
  { email: 'technician@fennick.example', name: 'Tobin Sayle', role: 'technician' },
];

/**
 * Shuts out the accounts of the demo that still have its password, which everybody knows: a lab for
 * real may have begun with the data of a demo. @returns their names.
 */
export async function shutOutDemoPeople(lab: Lab): Promise<string[]> {
  const rows = await lab.store.people.find({
    email: DEMO_PEOPLE.map(({ email }) => email),
    active: true,
  });
  const shut: string[] = [];
  for (const { id, name, passwordHash, sessionEpoch, version } of rows) {
    if (!(await passwordFits(passwordHash, DEMO_PASSWORD))) continue;
    await lab.store.transaction(async (transaction) => {
      await lab.store.people.update(
        { active: false, sessionEpoch: sessionEpoch + 1, version: version + 1 },
        { id },
        transaction,
      );
      await writeAudit(
        lab,
        await systemActor(lab, undefined, transaction),
        {
          act: 'shut out an account of the demo',
          subjectType: 'person',
          subjectId: String(id),
          after: { name },
        },
        transaction,
      );
    });
    shut.push(name);
  }
  return shut;
}
