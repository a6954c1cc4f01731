import Link from 'next/link';

const TABS = [
  ['claim', 'Claim'],
  ['arrival', 'Arrival'],
  ['readings', 'Readings'],
  ['logs', 'Logs'],
  ['cells', 'Cells'],
  ['curves', 'Curves'],
  ['verdict', 'Verdict'],
  ['report', 'Report'],
] as const;

/** The stages of a lot, in the order of the work. */
export function LotTabs({ code, current }: { code: string; current: string }) {
  return (
    <nav
      aria-label="Stages of the lot"
      className="mb-5 mt-4 flex flex-wrap gap-1 border-b border-rule"
    >
      {TABS.map(([tab, name]) => (
        <Link
          key={tab}
          href={`/lots/${code}/${tab}`}
          aria-current={tab === current ? 'page' : undefined}
          scroll={false}
          className={`-mb-px min-h-9 border-b-2 px-3.5 py-1.5 ${tab === current ? 'border-ember font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
