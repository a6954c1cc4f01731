'use client';

import {
  BadgeCheck,
  FileText,
  Gauge,
  Inbox,
  Layers,
  Menu,
  type LucideIcon,
  Sunset,
  Truck,
  Wrench,
} from 'lucide-react';
import { Link } from '@/kit/link';
import type { DueStage } from '@dusk-tally/lab';
import { usePathname } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { Button } from '@/kit/button';
import { Side } from '@/kit/panel-over';
import { placeOf } from './came-from';
import { type DueCounts, useDueCounts } from './use-due-counts';

interface Place {
  href: string;
  name: string;
  icon: LucideIcon;
  /** Further addresses that belong to this place. */
  also?: RegExp;
  /** Stage whose due items are counted here. */
  stage?: DueStage;
}

const WORK: Place[] = [
  { href: '/', name: 'Today', icon: Sunset },
  {
    href: '/arrivals',
    name: 'Arrivals',
    icon: Inbox,
    stage: 'arrivals',
    also: /^\/(lots\/[^/]+\/(claim|arrival|pick-list|cells|logs|readings)|cells)/,
  },
  { href: '/bench', name: 'Bench', icon: Gauge, stage: 'bench' },
  { href: '/shelf', name: 'Shelf', icon: Layers, stage: 'resting' },
  {
    href: '/verdicts',
    name: 'Verdicts',
    icon: BadgeCheck,
    stage: 'verdicts',
    also: /^\/lots\/[^/]+\/(curves|verdict)/,
  },
  { href: '/reports', name: 'Reports', icon: FileText, also: /^\/lots\/[^/]+\/report/ },
];
const AROUND: Place[] = [
  { href: '/suppliers', name: 'Suppliers', icon: Truck },
  { href: '/lab', name: 'Lab', icon: Wrench, stage: 'evidence' },
];

/** How much is due at a place; what presses is told from what can wait. */
function Due({ counts, stage }: { counts: DueCounts | undefined; stage: DueStage | undefined }) {
  const count = stage && counts?.[stage];
  if (!count || count.all === 0) return null;
  const { pressing, all } = count;
  const words =
    pressing > 0 ? `${pressing} due now, ${all} in all` : `${all} ${all === 1 ? 'waits' : 'wait'}`;
  return (
    <span
      title={words}
      className={`ml-auto rounded-full px-1.5 text-[0.78rem] tabular-nums ${pressing > 0 ? 'bg-ember font-semibold text-on-ember' : 'text-quiet'}`}
    >
      <span aria-hidden>{pressing > 0 ? pressing : all}</span>
      <span className="sr-only">{words}</span>
    </span>
  );
}

const BEFORE = 'dusk-tally-place';

/** The place to be marked; within a tab it is remembered past a reload. */
function useMarkedPlace(): string | null {
  const path = usePathname();
  // Undefined until what the tab remembers was read.
  const [before, setBefore] = useState<string | null>();
  const own =
    [...WORK, ...AROUND].find(({ href, also }) =>
      href === '/' ? path === '/' : path.startsWith(href) || also?.test(path),
    )?.href ?? null;
  const marked = placeOf(path, own, before ?? null);
  useEffect(() => {
    setBefore(sessionStorage.getItem(BEFORE));
  }, []);
  useEffect(() => {
    // Only stages of the work are where one comes from; Today leads everywhere.
    const isStage = WORK.some(({ href }) => href === marked && href !== '/');
    if (before === undefined || !marked || !isStage) return;
    setBefore(marked);
    sessionStorage.setItem(BEFORE, marked);
  }, [marked, before]);
  return marked;
}

function Places({
  places,
  counts,
  down,
  marked,
}: {
  places: Place[];
  counts: DueCounts | undefined;
  down: boolean;
  marked: string | null;
}) {
  return (
    <ul className={`flex flex-col gap-0.5 ${down ? '' : 'max-lg:flex-row'}`}>
      {places.map(({ href, name, icon: Icon, stage }) => {
        const here = href === marked;
        return (
          <li key={href}>
            <Link
              href={href}
              aria-current={here ? 'page' : undefined}
              className={`flex min-h-10 items-center gap-2.5 rounded-sm px-3 py-2 ${here ? 'bg-ember-wash font-semibold' : 'text-quiet hover:bg-wash hover:text-ink'}`}
            >
              <Icon size={17} aria-hidden />
              {name}
              <Due counts={counts} stage={stage} />
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

/** The places of the app, in the order of the work; beside one another where there is no room below. */
export function Rail({ down = false }: { down?: boolean }) {
  const counts = useDueCounts();
  const marked = useMarkedPlace();
  return (
    <nav
      aria-label="Places"
      className={`flex flex-col gap-6 ${down ? '' : 'max-lg:flex-row max-lg:overflow-x-auto'}`}
    >
      <Places places={WORK} counts={counts} down={down} marked={marked} />
      <Places places={AROUND} counts={counts} down={down} marked={marked} />
    </nav>
  );
}

/** On a phone the places stand behind one button. */
export function RailMenu({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="bare" className="min-h-11" onClick={() => setOpen(true)}>
        <Menu size={18} aria-hidden /> Places
      </Button>
      <Side open={open} onClose={() => setOpen(false)} title="Places" closeLabel="Close the places">
        {/* A press on a place leads there and closes the list. */}
        <div
          className="mt-4 space-y-6"
          onClick={(event) =>
            event.target instanceof Element && event.target.closest('a') && setOpen(false)
          }
        >
          <Rail down />
          {children}
        </div>
      </Side>
    </>
  );
}
