'use client';

import { ThemeProvider } from 'next-themes';
import type { ReactNode } from 'react';
import { Messages } from '@/kit/messages';

/** Theme and short messages for every page. */
export function Providers({ children }: { children: ReactNode }) {
  return (
    <ThemeProvider attribute="class" defaultTheme="system" enableSystem disableTransitionOnChange>
      {children}
      <Messages />
    </ThemeProvider>
  );
}
