'use client';

import { Over } from '@/kit/panel-over';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';

const EVERYWHERE: [string, string][] = [
  ['Ctrl K or /', 'find a cell, lot, report or place'],
  ['?', 'this list'],
  ['Esc', 'close the panel on top'],
];
const BY_PLACE: [RegExp, [string, string][]][] = [
  [
    /^\/lots\/[^/]+\/arrival\/inspection/,
    [
      ['Space or Enter', 'on the tally: pick the cell; with Shift, all up to it'],
      ['the letter beside a finding', 'found on the picked cells'],
      ['C', 'the picked cells are clear'],
      ['X', 'all others are clear'],
      ['Esc', 'pick none'],
    ],
  ],
  [/^\/lots\/[^/]+\/arrival/, [['a scanner', 'finds the cell, or gives it its code']]],
  [
    /^\/lots\/[^/]+\/(arrival\/)?readings/,
    [
      ['Enter', 'keep the value, next cell'],
      ['↑ ↓ ← →', 'move'],
      ['Ctrl Z', 'take the last entry back'],
      ['Ctrl V', 'fill downwards from a spreadsheet'],
    ],
  ],
  [
    /^\/(lots|cells)\//,
    [
      ['← →', 'on the tally: previous, next cell'],
      ['Home, End', 'on the tally: first, last cell'],
      ['Enter', 'on the tally: open the cell'],
    ],
  ],
  [/^\/cells\//, [['J, K', 'next, previous cell']]],
];

/** The shortcuts of the screen, on `?`. */
export function Shortcuts() {
  const path = usePathname();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      if (event.key === '?' && !typing) setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const rows = [
    ...BY_PLACE.filter(([pattern]) => pattern.test(path)).flatMap(([, keys]) => keys),
    ...EVERYWHERE,
  ];
  return (
    <Over open={open} onOpen={setOpen} width={460} title="Keys on this screen">
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
        {rows.map(([keys, what]) => (
          <div key={keys + what} className="contents">
            <dt className="font-medium">{keys}</dt>
            <dd className="text-quiet">{what}</dd>
          </div>
        ))}
      </dl>
    </Over>
  );
}
