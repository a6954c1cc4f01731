'use client';

import {
  BadgeCheck,
  FileText,
  Gauge,
  Inbox,
  type LucideIcon,
  Sunset,
  Truck,
  Wrench,
} from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';

interface Place {
  href: string;
  name: string;
  icon: LucideIcon;
  /** Further addresses that belong to this place. */
  also?: RegExp;
}

const WORK: Place[] = [
  { href: '/', name: 'Today', icon: Sunset },
  {
    href: '/arrivals',
    name: 'Arrivals',
    icon: Inbox,
    also: /^\/(lots\/[^/]+\/(claim|arrival|pick-list|cells|logs|readings)|cells)/,
  },
  { href: '/bench', name: 'Bench', icon: Gauge },
  {
    href: '/verdicts',
    name: 'Verdicts',
    icon: BadgeCheck,
    also: /^\/lots\/[^/]+\/(curves|verdict)/,
  },
  { href: '/reports', name: 'Reports', icon: FileText, also: /^\/lots\/[^/]+\/report/ },
];
const AROUND: Place[] = [
  { href: '/suppliers', name: 'Suppliers', icon: Truck },
  { href: '/lab', name: 'Lab', icon: Wrench },
];

function Places({ places }: { places: Place[] }) {
  const path = usePathname();
  return (
    <ul className="flex flex-col gap-0.5 max-lg:flex-row">
      {places.map(({ href, name, icon: Icon, also }) => {
        const here = href === '/' ? path === '/' : path.startsWith(href) || also?.test(path);
        return (
          <li key={href}>
            <Link
              href={href}
              aria-current={here ? 'page' : undefined}
              className={`flex min-h-10 items-center gap-2.5 rounded-sm px-3 py-2 ${here ? 'bg-ember-wash font-semibold' : 'text-quiet hover:bg-wash hover:text-ink'}`}
            >
              <Icon size={17} aria-hidden />
              {name}
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

/** The places of the app, in the order of the work. */
export function Rail() {
  return (
    <nav aria-label="Places" className="flex flex-col gap-6 max-lg:flex-row max-lg:overflow-x-auto">
      <Places places={WORK} />
      <Places places={AROUND} />
    </nav>
  );
}
