'use client';

import type { SearchHit } from '@dusk-tally/lab/today';
import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { Search } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

const ACTS = [
  { title: 'Take in a new lot', href: '/arrivals/new' },
  { title: 'Today', href: '/' },
  { title: 'Arrivals', href: '/arrivals' },
  { title: 'Verdicts', href: '/verdicts' },
  { title: 'Reports', href: '/reports' },
  { title: 'Suppliers', href: '/suppliers' },
  { title: 'Lab', href: '/lab' },
];
const ITEM =
  'flex cursor-pointer items-baseline gap-3 rounded-sm px-3 py-2 data-[selected=true]:bg-ember-wash';

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** One line over everything: cells, lots, reports and places. Opens with Ctrl+K or /. */
export function Finder() {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const { data: hits = [] } = useQuery({
    queryKey: ['search', text],
    enabled: open && text.trim() !== '',
    queryFn: async () =>
      (
        (await (await fetch(`/api/search?q=${encodeURIComponent(text)}`)).json()) as {
          data: SearchHit[];
        }
      ).data ?? [],
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const asked =
        (event.key === 'k' && (event.ctrlKey || event.metaKey)) ||
        (event.key === '/' && !isTyping(event.target));
      if (!asked) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const go = (href: string) => {
    setOpen(false);
    setText('');
    router.push(href);
  };
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="flex w-full min-h-10 items-center gap-2 rounded-sm border border-rule bg-sheet px-3 py-1.5 text-left text-quiet hover:border-strong-rule"
      >
        <Search size={15} aria-hidden /> Find
        <kbd className="ml-auto text-[0.75rem]">Ctrl K</kbd>
      </button>
      <Command.Dialog
        open={open}
        onOpenChange={setOpen}
        label="Find a cell, lot, report or place"
        shouldFilter={false}
        overlayClassName="fixed inset-0 z-40 bg-black/40"
        contentClassName="fixed left-1/2 top-[14vh] z-50 w-[min(560px,92vw)] -translate-x-1/2 rounded-md border border-strong-rule bg-raised p-2 shadow-xl"
      >
        <Command.Input
          value={text}
          onValueChange={setText}
          placeholder="Cell, lot, report, place"
          className="field mb-2"
        />
        <Command.List className="max-h-[50vh] overflow-y-auto">
          <Command.Empty className="px-3 py-2 text-quiet">Nothing fits “{text}”.</Command.Empty>
          {hits.map((hit) => (
            <Command.Item
              key={hit.href}
              value={hit.href}
              onSelect={() => go(hit.href)}
              className={ITEM}
            >
              <span className="font-medium">{hit.title}</span>
              <span className="truncate text-quiet">
                {hit.kind} {hit.hint && `· ${hit.hint}`}
              </span>
            </Command.Item>
          ))}
          {ACTS.filter((act) => act.title.toLowerCase().includes(text.trim().toLowerCase())).map(
            (act) => (
              <Command.Item
                key={act.href}
                value={act.href}
                onSelect={() => go(act.href)}
                className={ITEM}
              >
                {act.title}
              </Command.Item>
            ),
          )}
        </Command.List>
      </Command.Dialog>
    </>
  );
}
