import { Link } from '@/kit/link';
import { type ReactNode, Suspense } from 'react';
import { EarlyKeys } from '@/kit/early-keys';
import { ScanListener } from '@/kit/scan-listener';
import { Brand } from '@/features/frame/brand';
import { Finder } from '@/features/frame/finder';
import { HeldLine } from '@/features/frame/held-line';
import { PersonMenu } from '@/features/people/person-menu';
import { Rail, RailMenu } from '@/features/frame/rail';
import { Shortcuts } from '@/features/frame/shortcuts';
import { TrailPanel } from '@/features/evidence/trail-panel';
import { labTimeZone } from '@dusk-tally/lab/lots';
import { ownWidths } from '@dusk-tally/lab/people';
import { LabTime } from '@/kit/lab-time';
import { PersonProvider } from '@/kit/person';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const dynamic = 'force-dynamic';

export default async function LabLayout({ children }: { children: ReactNode }) {
  const who = await requireActor();
  const [timeZone, widths] = await Promise.all([labTimeZone(lab()), ownWidths(lab(), who, {})]);
  return (
    <PersonProvider person={{ id: who.id, name: who.name, widths }}>
      <LabTime timeZone={timeZone}>
        <EarlyKeys />
        <div className="flex min-h-dvh max-lg:flex-col">
          <a
            href="#main"
            className="sr-only focus:not-sr-only focus:fixed focus:left-2 focus:top-2 focus:z-50 focus:bg-raised focus:p-2"
          >
            To the content
          </a>
          <aside
            aria-label="Places and account"
            className="print:hidden flex w-52 shrink-0 flex-col gap-6 border-r border-rule bg-sheet p-3 lg:sticky lg:top-0 lg:h-dvh max-lg:w-full max-lg:flex-row max-lg:items-center max-lg:gap-3 max-lg:overflow-x-auto max-lg:border-b max-lg:border-r-0 max-sm:flex-wrap max-sm:justify-between"
          >
            <Link href="/" className="px-2 pt-2 max-lg:pt-0" aria-label="Dusk Tally, today">
              <Brand />
            </Link>
            <div className="max-lg:min-w-40 max-sm:order-last max-sm:w-full">
              <Finder />
            </div>
            <div className="max-sm:hidden">
              <Rail />
            </div>
            <HeldLine className="max-lg:hidden" />
            <div className="mt-auto max-lg:mt-0 max-sm:hidden">
              <PersonMenu name={who.name} role={who.role} />
            </div>
            <div className="sm:hidden">
              <RailMenu>
                <PersonMenu name={who.name} role={who.role} />
              </RailMenu>
            </div>
          </aside>
          <main id="main" className="min-w-0 flex-1 px-6 py-6 max-lg:px-3">
            {children}
          </main>
          <Suspense>
            <TrailPanel />
          </Suspense>
          <Shortcuts />
          <ScanListener />
        </div>
      </LabTime>
    </PersonProvider>
  );
}
