import type { Role, Store, Transaction } from '@dusk-tally/store';
import type { Change } from './changes';

/** What every act of the work needs from around it. */
export interface Lab {
  store: Store;
  now: () => Date;
  /** Makes everything new that depends on what changed. */
  derive: (changes: readonly Change[], transaction: Transaction) => Promise<void>;
}

/** The lab inside a transaction: nothing read or written through it is outside. */
export const labWithin = (lab: Lab, transaction: Transaction): Lab => ({
  ...lab,
  store: lab.store.within(transaction),
});

/** Who acts. */
export interface Actor {
  id: number;
  name: string;
  role: Role;
  /** Whose work it is where the app does it by itself. */
  onBehalfOf?: number;
}

/** Whose work rows say it is. */
export const workerOf = ({ id, onBehalfOf }: Actor): number => onBehalfOf ?? id;

/** The app acting by itself, for a person where it goes on with what they began. */
export async function systemActor(
  lab: Lab,
  onBehalfOf?: number,
  transaction?: Transaction,
): Promise<Actor> {
  const row = await lab.store.people.one(
    { role: 'system' },
    { transaction, columns: ['id', 'name'] },
  );
  if (!row) throw new Error('Expected the database to be migrated: it knows no system.');
  return { id: row.id, name: row.name, role: 'system', onBehalfOf };
}

/** The system may what a lead may, and nothing that is an admin’s. */
const RANK: Record<Role, number> = { technician: 1, lead: 2, system: 2, admin: 3 };

/** Whether a role may do what `needed` may. */
export function mayAct(role: Role, needed: Role): boolean {
  return RANK[role] >= RANK[needed];
}
