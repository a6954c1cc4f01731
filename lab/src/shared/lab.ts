import type { Role, Store, Transaction } from '@dusk-tally/store';
import type { Change } from './changes';

/** What every act of the work needs from around it. */
export interface Lab {
  store: Store;
  now: () => Date;
  /** Makes everything new that depends on what changed. */
  derive: (changes: readonly Change[], transaction: Transaction) => Promise<void>;
}

/** Who acts. */
export interface Actor {
  id: number;
  name: string;
  role: Role;
}

const RANK: Record<Role, number> = { technician: 1, lead: 2, admin: 3 };

/** Whether a role may do what `needed` may. */
export function mayAct(role: Role, needed: Role): boolean {
  return RANK[role] >= RANK[needed];
}
