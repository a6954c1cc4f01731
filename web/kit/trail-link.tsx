'use client';

import type { MouseEvent, ReactNode } from 'react';
import { useAddress } from '@/lib/use-address';

/** A figure that opens its trail beside the page; the address can be shared. */
export function TrailLink({
  figureId,
  children,
}: {
  figureId: number | null;
  children: ReactNode;
}) {
  const { hrefWith, set } = useAddress();
  if (figureId === null) return <>{children}</>;
  const change = { figure: String(figureId) };
  const onClick = (event: MouseEvent) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey) return;
    event.preventDefault();
    set(change, true);
  };
  return (
    <a
      href={hrefWith(change)}
      onClick={onClick}
      className="hover:underline"
      title="How this figure came about"
    >
      {children}
    </a>
  );
}
