'use client';

import { queryOptions } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { type KeyboardEvent as KeyPress, useEffect, useEffectEvent, useState } from 'react';
import { searchFor, SearchRefused } from '@/lib/search';
import { fetched, useFetched } from '@/lib/use-fetched';

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

/** What fits a text, as the server says. */
const searchOf = (text: string) =>
  queryOptions({
    queryKey: ['search', text],
    queryFn: () => searchFor(text),
    // A refusal stays one; only a lost answer is asked for again.
    retry: (failures, error) => failures < 1 && !(error instanceof SearchRefused),
  });

/** Why the list is empty, when nothing was found. */
function whyEmpty(text: string, { error, isPaused }: { error: Error | null; isPaused: boolean }) {
  if (error instanceof SearchRefused) return error.message;
  if (error !== null || isPaused) return 'No connection: only places of the app are found.';
  return `Nothing fits “${text}”.`;
}

/** What fits what is typed, and the places of the app; Enter goes to the first. */
export function FinderPanel({
  open,
  onOpen,
  typed,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
  /** Keys that were pressed before the panel was there; whether Enter was the last of them. */
  typed: { text: string; entered: boolean };
}) {
  const router = useRouter();
  const [text, setText] = useState(typed.text);
  const search = useFetched({ ...searchOf(text), enabled: open && text.trim() !== '' });
  const { data: hits = [], isLoading } = search;
  const words = text.trim().toLowerCase();
  const acts = ACTS.filter(({ title }) => title.toLowerCase().includes(words));
  const offered = [...hits.map(({ href }) => href), ...acts.map(({ href }) => href)];
  const [walkedTo, setWalkedTo] = useState<string | null>(null);
  const current = walkedTo !== null && offered.includes(walkedTo) ? walkedTo : (offered[0] ?? '');
  const go = (href: string) => {
    onOpen(false);
    setText('');
    setWalkedTo(null);
    router.push(href);
  };
  /** To the first of what fits, once that is there. */
  const goToFirst = async (asked: string) => {
    // Without a connection nothing fits, and the dialog stays as it is.
    const found = await fetched.fetchQuery(searchOf(asked)).catch(() => []);
    return found[0]?.href ?? acts[0]?.href;
  };
  /** Enter pressed before what fits is there goes to the first of it once it is. */
  const inHaste = async (event: KeyPress<HTMLInputElement>) => {
    if (event.key !== 'Enter' || !isLoading) return;
    event.preventDefault();
    event.stopPropagation();
    const input = event.currentTarget;
    const href = await goToFirst(text);
    if (href !== undefined && input.value === text) go(href);
  };
  const onEnteredBefore = useEffectEvent(async () => {
    const href = typed.entered ? await goToFirst(typed.text) : undefined;
    if (href !== undefined) go(href);
  });
  useEffect(() => void onEnteredBefore(), []);
  return (
    <Command.Dialog
      open={open}
      onOpenChange={onOpen}
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
        <Command.Empty className="px-3 py-2 text-quiet">{whyEmpty(text, search)}</Command.Empty>
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
  );
}
