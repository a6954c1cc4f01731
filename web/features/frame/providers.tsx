'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ThemeProvider } from 'next-themes';
import { type FocusEvent, type ReactNode, useState } from 'react';
import { Toaster } from 'sonner';

const keepToItself = (event: FocusEvent) => event.stopPropagation();

/** Theme, fetched data and short messages for every page. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
      }),
  );
  return (
    <ThemeProvider attribute="class" defaultTheme="system" enableSystem disableTransitionOnChange>
      <QueryClientProvider client={client}>{children}</QueryClientProvider>
      {/* Left with Tab, a message would hand the focus back to where it came from: nobody got past it. */}
      <div onFocusCapture={keepToItself} onBlurCapture={keepToItself}>
        <Toaster
          position="bottom-right"
          toastOptions={{
            style: {
              background: 'var(--raised)',
              color: 'var(--ink)',
              border: '1px solid var(--rule)',
            },
          }}
        />
      </div>
    </ThemeProvider>
  );
}
