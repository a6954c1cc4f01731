import type { Outcome } from '@/lib/outcome';
import { orOffline } from '@/lib/or-offline';
import { say } from './say';

/** How long taking back is offered, ms. */
const OFFERED_MS = 8000;

/** Says what was done, and offers to take it back while one still has it in mind. */
export function offerUndo(text: string, undo: () => void): void {
  say(text, { stays: OFFERED_MS, offer: { label: 'Take it back', act: undo } });
}

/** Why something is taken back that was only just done. */
export const AT_ONCE = 'Taken back at once.';

/** The same for an act of the lab that has one which takes it back. */
export function offerUndoOf(text: string, undo: () => Promise<Outcome<unknown>>): void {
  offerUndo(text, () => {
    void orOffline(undo).then(
      (outcome) => say(outcome.ok ? 'Taken back.' : outcome.message),
      () => say('No connection: nothing was taken back.'),
    );
  });
}
