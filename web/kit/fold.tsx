'use client';

import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { type ReactNode, useState } from 'react';

/** What is not needed at first sight, behind its heading; in the page for finding and printing. */
export function Fold({
  title,
  children,
  className = '',
  openAtFirst = false,
}: {
  title: ReactNode;
  children: ReactNode;
  className?: string;
  openAtFirst?: boolean;
}) {
  const [open, setOpen] = useState(openAtFirst);
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className={className}>
      <Collapsible.Trigger className="flex min-h-9 items-center gap-1.5 font-medium">
        <ChevronRight
          size={15}
          aria-hidden
          className={`text-quiet transition-transform ${open ? 'rotate-90' : ''}`}
        />
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
