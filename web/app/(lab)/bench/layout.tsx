import type { ReactNode } from 'react';
import { BenchTabs } from '@/features/bench/bench-tabs';

export default function BenchLayout({ children }: { children: ReactNode }) {
  return (
    <>
      <h1 className="mb-2 text-2xl font-semibold tracking-tight">Bench</h1>
      <BenchTabs />
      {children}
    </>
  );
}
