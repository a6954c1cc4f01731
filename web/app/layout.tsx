import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/features/frame/providers';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Dusk Tally', template: '%s · Dusk Tally' },
  description: 'Measure, judge, grade and report battery cells.',
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
