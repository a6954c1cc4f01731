'use client';

import type { SearchHit } from '@dusk-tally/lab/today';
import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { Search } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent as KeyPress, useEffect, useState } from 'react';

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

/** What fits a text, as the server says. */
const searchOf = (text: string) =>
  queryOptions({
    queryKey: ['search', text],
    queryFn: async () =>
      (
        (await (await fetch(`/api/search?q=${encodeURIComponent(text)}`)).json()) as {
          data: SearchHit[];
        }
      ).data ?? [],
  });

/** One line over everything: cells, lots, reports and places. Opens with Ctrl+K or /. */
export function Finder() {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const { data: hits = [], isLoading } = useQuery({
    ...searchOf(text),
    enabled: open && text.trim() !== '',
  });
  const client = useQueryClient();
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
  const words = text.trim().toLowerCase();
  const acts = ACTS.filter(({ title }) => title.toLowerCase().includes(words));
  const offered = [...hits.map(({ href }) => href), ...acts.map(({ href }) => href)];
  const [walkedTo, setWalkedTo] = useState<string | null>(null);
  const current = walkedTo !== null && offered.includes(walkedTo) ? walkedTo : (offered[0] ?? '');
  const go = (href: string) => {
    setOpen(false);
    setText('');
    setWalkedTo(null);
    router.push(href);
  };
  /** Enter pressed before what fits is there goes to the first of it once it is. */
  const inHaste = async (event: KeyPress<HTMLInputElement>) => {
    if (event.key !== 'Enter' || !isLoading) return;
    event.preventDefault();
    event.stopPropagation();
    const input = event.currentTarget;
    // Without a connection nothing fits, and the dialog stays as it is.
    const found = await client.fetchQuery(searchOf(text)).catch(() => []);
    const href = found[0]?.href ?? acts[0]?.href;
    if (href !== undefined && input.value === text) go(href);
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
        value={current}
        onValueChange={setWalkedTo}
        overlayClassName="fixed inset-0 z-40 bg-black/40"
        contentClassName="fixed left-1/2 top-[14vh] z-50 w-[min(560px,92vw)] -translate-x-1/2 rounded-md border border-strong-rule bg-raised p-2 shadow-xl"
      >
        <Command.Input
          value={text}
          onValueChange={(next) => {
            setText(next);
            setWalkedTo(null);
          }}
          onKeyDown={(event) => void inHaste(event)}
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
          {acts.map((act) => (
            <Command.Item
              key={act.href}
              value={act.href}
              onSelect={() => go(act.href)}
              className={ITEM}
            >
              {act.title}
            </Command.Item>
          ))}
        </Command.List>
      </Command.Dialog>
    </>
  );
}
