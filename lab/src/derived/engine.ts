import type { Transaction } from '@dusk-tally/store';
import type { Change, ChangeKind, Lab } from '../shared';
import type { Derivation } from './derivation';
import { Origin } from './origin';
import { touchedBy } from './touched';

/**
 * Kinds that lead back: what a fit says moves what was judged before it, and what is judged decides
 * what a fit may read. They are taken up in the next pass.
 */
const LEADS_BACK: readonly ChangeKind[] = ['channelFit'];
/** Passes until what leads back has come to rest. */
const MOST_PASSES = 8;

/**
 * Derivations so that each stands behind all that make what it reads.
 * @throws Error where two make each other without leading back.
 */
export function inOrder(derivations: readonly Derivation[]): Derivation[] {
  const left = [...derivations];
  const ordered: Derivation[] = [];
  while (left.length > 0) {
    const next = left.findIndex(({ reads }) =>
      reads.every(
        (kind) =>
          LEADS_BACK.includes(kind) ||
          !left.some((other) => other.makes.includes(kind) && !other.reads.includes(kind)),
      ),
    );
    if (next < 0)
      throw new Error(
        `Expected an order; ${left.map(({ name }) => name).join(', ')} go in circles.`,
      );
    ordered.push(...left.splice(next, 1));
  }
  return ordered;
}

/** Makes everything new that depends on what changed, in one transaction. */
export type Derive = (
  lab: Lab,
  changes: readonly Change[],
  transaction: Transaction,
) => Promise<void>;

/**
 * The one engine: an act says what changed; each derivation that reads it is refreshed once, in the
 * order of the declarations, and what it changed by itself goes on to those who read that.
 * @param atRest told once all is made new, with what the act moved elsewhere.
 */
export function engineOf(
  derivations: readonly Derivation[],
  atRest?: (lab: Lab, origin: Origin, transaction: Transaction) => Promise<void>,
): Derive {
  const ordered = inOrder(derivations);
  return async (lab, changes, transaction) => {
    const all: Change[] = [...changes];
    const origin = new Origin(changes);
    const seen = ordered.map(() => 0);
    for (let pass = 0; pass < MOST_PASSES; pass++) {
      let isAtRest = true;
      for (const [i, derivation] of ordered.entries()) {
        const fresh = all.slice(seen[i]).filter(({ what }) => derivation.reads.includes(what));
        seen[i] = all.length;
        if (fresh.length === 0) continue;
        isAtRest = false;
        const touched = await touchedBy(lab, fresh, transaction);
        if (touched.length > 0)
          all.push(...(await derivation.refresh(lab, touched, transaction, origin)));
      }
      if (isAtRest) break;
    }
    await atRest?.(lab, origin, transaction);
  };
}
