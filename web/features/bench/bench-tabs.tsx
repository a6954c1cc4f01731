'use client';

import { usePathname } from 'next/navigation';
import { TabLinks } from '@/kit/tab-links';

const TABS = [
  { href: '/bench', name: 'Now' },
  { href: '/bench/round', name: 'Round' },
  { href: '/bench/plan', name: 'Plan' },
  { href: '/bench/recipes', name: 'Recipes' },
  { href: '/bench/channels', name: 'Channels' },
  { href: '/bench/parallel', name: 'Parallel charge' },
  { href: '/bench/load-test', name: 'Load test' },
] as const;

/** The places of the bench. */
export function BenchTabs() {
  const path = usePathname();
  const here = TABS.find(({ href }) => href !== '/bench' && path.startsWith(href)) ?? TABS[0];
  return (
    <TabLinks label="Bench" tabs={TABS} current={here.href} className="mb-4 border-b border-rule" />
  );
}
