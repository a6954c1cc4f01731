import { toast } from 'sonner';

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
