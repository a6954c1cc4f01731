'use client';

import { Search } from 'lucide-react';
import { useState } from 'react';
import { onDemand } from '@/kit/on-demand';
import { useKeys } from '@/kit/use-keys';

const usePanel = onDemand(() => import('./finder-panel'));

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

const NOTHING = { text: '', entered: false };

/** One line over everything: cells, lots, reports and places. Opens with Ctrl+K or /. */
export function Finder() {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState(NOTHING);
  const panel = usePanel(open, () => setOpen(false));
  const ask = () => {
    setTyped(NOTHING);
    setOpen(true);
  };
  useKeys((event) => {
    const asked =
      (event.key === 'k' && (event.ctrlKey || event.metaKey)) ||
      (event.key === '/' && !isTyping(event.target));
    if (asked) {
      event.preventDefault();
      ask();
    } else if (open && !panel) {
      // What is typed before the panel is there is typed into it.
      event.preventDefault();
      const { key } = event;
      if (key === 'Escape') setOpen(false);
      else if (key === 'Enter') setTyped(({ text }) => ({ text, entered: text.trim() !== '' }));
      else if (key === 'Backspace')
        setTyped(({ text }) => ({ text: text.slice(0, -1), entered: false }));
      else if (key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey)
        setTyped(({ text }) => ({ text: text + key, entered: false }));
    }
  });
  return (
    <>
      <button
        type="button"
        onClick={ask}
        className="flex w-full min-h-10 items-center gap-2 rounded-sm border border-rule bg-sheet px-3 py-1.5 text-left text-quiet hover:border-strong-rule"
      >
        <Search size={15} aria-hidden /> Find
        <kbd className="ml-auto text-[0.75rem]">Ctrl K</kbd>
      </button>
      {panel && <panel.FinderPanel open={open} onOpen={setOpen} typed={typed} />}
    </>
  );
}
