'use client';

import { type FocusEvent, useEffect, useSyncExternalStore } from 'react';
import { Button } from './button';
import { onDemand } from './on-demand';
import { type Message, messages } from './say';

const useToasts = onDemand(() => import('./toasts'));
const NONE: readonly Message[] = [];

/** As it is shown until what shows them well has come, and where that cannot come. */
function Plain({ message }: { message: Message }) {
  useEffect(() => {
    const timer = setTimeout(() => messages.done(message.id), message.stays);
    return () => clearTimeout(timer);
  }, [message]);
  return (
    <p className="mt-2 flex items-center gap-3 rounded-md border border-rule bg-raised p-4 shadow-xl">
      {message.text}
      {message.offer && (
        <Button
          onClick={() => {
            message.offer?.act();
            messages.done(message.id);
          }}
        >
          {message.offer.label}
        </Button>
      )}
    </p>
  );
}

const keepToItself = (event: FocusEvent) => event.stopPropagation();

/** The short messages of a page; read out as they come. */
export function Messages() {
  const waiting = useSyncExternalStore(messages.watch, messages.waiting, () => NONE);
  const toasts = useToasts(waiting.length > 0);
  // Left with Tab, a message would hand the focus back to where it came from: nobody got past it.
  return (
    <div onFocusCapture={keepToItself} onBlurCapture={keepToItself}>
      {toasts ? (
        <toasts.Toasts />
      ) : (
        <div role="status" className="fixed bottom-6 right-6 z-50 w-[min(356px,90vw)]">
          {waiting.map((message) => (
            <Plain key={message.id} message={message} />
          ))}
        </div>
      )}
    </div>
  );
}
