'use client';

import { Over } from '@/kit/panel-over';
import { useKeys } from '@/kit/use-keys';
import { usePathname } from 'next/navigation';
import { useState } from 'react';
import { shortcutsOf } from './shortcut-list';

/** The shortcuts of the screen, on `?`. */
export function Shortcuts() {
  const path = usePathname();
  const [open, setOpen] = useState(false);
  useKeys((event) => {
    const typing =
      event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
    if (event.key === '?' && !typing) setOpen(true);
  });
  const rows = shortcutsOf(path);
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
