import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/features/frame/providers';
import { ClockAhead } from './clock-ahead';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Dusk Tally', template: '%s · Dusk Tally' },
  description: 'Measure, judge, grade and report battery cells.',
};

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <ClockAhead />
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
