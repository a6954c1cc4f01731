'use client';

import { useEffect, useSyncExternalStore } from 'react';
import { toast, Toaster } from 'sonner';
import { type Message, messages } from './say';

function show({ text, stays, offer }: Message): void {
  const id = toast(text, {
    duration: stays,
    ...(offer && {
      action: {
        label: offer.label,
        onClick: () => {
          offer.act();
          toast.dismiss(id);
        },
      },
    }),
  });
}

/** Hands over what waits; after the toaster, which listens from its first effect on. */
function HandOver() {
  const waiting = useSyncExternalStore(messages.watch, messages.waiting, messages.waiting);
  useEffect(() => {
    for (const message of waiting) {
      messages.done(message.id);
      show(message);
    }
  }, [waiting]);
  return null;
}

export function Toasts() {
  return (
    <>
      <Toaster
        position="bottom-right"
        style={{ fontFamily: 'inherit' }}
        toastOptions={{
          style: {
            background: 'var(--raised)',
            color: 'var(--ink)',
            border: '1px solid var(--rule)',
            fontSize: '0.93rem',
          },
        }}
      />
      <HandOver />
    </>
  );
}
