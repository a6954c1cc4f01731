import { toast } from 'sonner';
import type { Outcome } from '@/lib/outcome';
import { orOffline } from '@/lib/or-offline';

/** How long taking back is offered, ms. */
const OFFERED_MS = 8000;

/** Says what was done, and offers to take it back while one still has it in mind. */
export function offerUndo(text: string, undo: () => void): void {
  const id = toast(text, {
    duration: OFFERED_MS,
    action: {
      label: 'Take it back',
      onClick: () => {
        undo();
        toast.dismiss(id);
      },
    },
  });
}

/** Why something is taken back that was only just done. */
export const AT_ONCE = 'Taken back at once.';

/** The same for an act of the lab that has one which takes it back. */
export function offerUndoOf(text: string, undo: () => Promise<Outcome<unknown>>): void {
  offerUndo(text, () => {
    void orOffline(undo).then(
      (outcome) => toast(outcome.ok ? 'Taken back.' : outcome.message),
      () => toast('No connection: nothing was taken back.'),
    );
  });
}
