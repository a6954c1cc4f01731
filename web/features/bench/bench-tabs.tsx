'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';

const TABS = [
  ['/bench', 'Now'],
  ['/bench/plan', 'Plan'],
  ['/bench/recipes', 'Recipes'],
  ['/bench/channels', 'Channels'],
  ['/bench/parallel', 'Parallel charge'],
  ['/bench/load-test', 'Load test'],
] as const;

/** The places of the bench. */
export function BenchTabs() {
  const path = usePathname();
  return (
    <nav aria-label="Bench" className="mb-4 flex flex-wrap gap-1 border-b border-rule">
      {TABS.map(([href, name]) => {
        const here =
          href === '/bench'
            ? path === href || path.startsWith('/bench/runs')
            : path.startsWith(href);
        return (
          <Link
            key={href}
            href={href}
            aria-current={here ? 'page' : undefined}
            className={`-mb-px border-b-2 px-3 py-2 ${here ? 'border-ember font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
          >
            {name}
          </Link>
        );
      })}
    </nav>
  );
}
