'use client';

import { AlertDialog, Dialog, Popover } from 'radix-ui';
import { X } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button';
import type { BesideProps, OverProps, SideProps, SureProps } from './panel-props';

const OVERLAY = 'fixed inset-0 z-40 bg-black/40';
const SHEET =
  'fixed left-1/2 top-[10vh] z-50 max-h-[84vh] -translate-x-1/2 overflow-y-auto rounded-md border border-strong-rule bg-raised p-5 shadow-xl';

/** Focus goes back to what had it before the panel opened, also where no button of ours opened it. */
function useOpener() {
  const opener = useRef<Element | null>(null);
  return {
    onOpenAutoFocus: () => {
      opener.current = document.activeElement;
    },
    onCloseAutoFocus: (event: Event) => {
      if (!(opener.current instanceof HTMLElement) || !opener.current.isConnected) return;
      event.preventDefault();
      opener.current.focus();
    },
  };
}

/** A question or a form above the page; Esc and a press beside it close it, and focus goes back. */
export function Over({ open, onOpen, title, says, width = 560, children }: OverProps) {
  const focus = useOpener();
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content
          {...focus}
          className={SHEET}
          style={{ width: `min(${width}px, 92vw)` }}
          {...(says === undefined && { 'aria-describedby': undefined })}
        >
          <Dialog.Title className="mb-2 text-lg font-semibold">{title}</Dialog.Title>
          {says !== undefined && (
            <Dialog.Description className="mb-3 text-quiet">{says}</Dialog.Description>
          )}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What belongs to something on the page, at the side of it. */
export function Side({ open, onClose, title, closeLabel, testId, children }: SideProps) {
  const focus = useOpener();
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content
          {...focus}
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-40 w-[min(480px,100vw)] overflow-y-auto border-l border-strong-rule bg-sheet p-5 shadow-xl"
          data-testid={testId}
        >
          <div className="flex items-start justify-between gap-3">
            <Dialog.Title className="font-semibold">{title}</Dialog.Title>
            <Dialog.Close className="rounded-sm p-1.5 hover:bg-wash" aria-label={closeLabel}>
              <X size={18} />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Asks before what cannot be taken back; the safe answer has the focus. */
export function Sure({
  open,
  onOpen,
  title,
  says,
  act,
  stay = 'Leave it as it is',
  onSure,
}: SureProps) {
  const focus = useOpener();
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpen}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={OVERLAY} />
        <AlertDialog.Content {...focus} className={SHEET} style={{ width: 'min(460px, 92vw)' }}>
          <AlertDialog.Title className="mb-2 text-lg font-semibold">{title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="text-quiet">{says}</div>
          </AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button look="bare">{stay}</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button look="primary" onClick={onSure}>
                {act}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

/** A small panel at a button. */
export function Beside({
  open,
  onOpen,
  trigger,
  width = '',
  align = 'start',
  children,
}: BesideProps) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align={align}
          sideOffset={6}
          className={`z-40 max-w-[95vw] rounded-md border border-strong-rule bg-raised p-4 shadow-xl ${width}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
