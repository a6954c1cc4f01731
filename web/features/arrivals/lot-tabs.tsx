'use client';

import { useEffect, useRef, useState } from 'react';
import { TabLinks } from '@/kit/tab-links';
import type { TallyStroke } from '@/kit/tally-layout';
import { TallyThumb } from '@/kit/tally-strokes';

const TABS = [
  ['claim', 'Claim'],
  ['arrival', 'Arrival'],
  ['readings', 'Readings'],
  ['logs', 'Logs'],
  ['cells', 'Cells'],
  ['curves', 'Curves'],
  ['strings', 'Strings'],
  ['verdict', 'Verdict'],
  ['money', 'Money'],
  ['report', 'Report'],
] as const;

/** Whether the page was scrolled past an element. */
function usePassed() {
  const ref = useRef<HTMLDivElement>(null);
  const [passed, setPassed] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) =>
      setPassed(!entry!.isIntersecting && entry!.boundingClientRect.top < 0),
    );
    if (ref.current) observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return { ref, passed };
}

/**
 * The stages of a lot, in the order of the work. They stay at the top when the page is scrolled,
 * and then say which lot it is.
 */
export function LotTabs({
  code,
  title,
  strokes,
  current,
}: {
  code: string;
  title: string;
  strokes: TallyStroke[];
  current: string;
}) {
  const { ref, passed } = usePassed();
  return (
    <>
      <div ref={ref} className="mt-1.5 h-px" aria-hidden />
      <div
        className={`sticky top-0 z-20 -mx-2 mb-4 flex items-center gap-x-4 border-b border-rule bg-ground px-2 print:static ${passed ? 'shadow-sm' : ''}`}
      >
        {passed && (
          <p className="max-w-56 truncate font-semibold max-lg:hidden" title={title}>
            {title}
          </p>
        )}
        <TabLinks
          label="Stages of the lot"
          tabs={TABS.map(([tab, name]) => ({ href: `/lots/${code}/${tab}`, name }))}
          current={`/lots/${code}/${current}`}
        />
        {passed && strokes.length > 0 && (
          <span className="ml-auto shrink-0 max-xl:hidden">
            <TallyThumb strokes={strokes} width={170} height={24} />
          </span>
        )}
      </div>
    </>
  );
}
