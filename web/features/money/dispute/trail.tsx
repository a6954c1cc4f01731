import type { ReactNode } from 'react';
import { Link } from '@/kit/link';

/** Words or a figure that open what they come of. */
export const Trail = ({ href, children }: { href: string; children: ReactNode }) => (
  <Link href={href} className="rounded-sm underline decoration-dotted underline-offset-4">
    {children}
  </Link>
);
