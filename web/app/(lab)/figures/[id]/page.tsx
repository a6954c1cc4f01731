import { figureTrail } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { TraceChart } from '@/features/evidence/trace-chart';
import { TrailContent } from '@/features/evidence/trail-content';
import { QUANTITY_WORDS } from '@/kit/quantity-words';
import { PrintButton } from '@/kit/print-button';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';
import { Crumbs } from '@/kit/crumbs';
import { idOf } from '@/lib/id-param';

export const metadata = { title: 'How a figure came about' };

/** A figure’s trail as a page that can be linked and printed. */
export default async function FigurePage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const trail = await orNotFound(figureTrail(lab(), who, { id: idOf((await params).id) }));
  return (
    <article className="max-w-4xl">
      <Crumbs
        way={[
          { href: `/cells/${trail.cell}`, name: trail.cell },
          ...(trail.runId === null ? [] : [{ href: `/runs/${trail.runId}`, name: 'its run' }]),
        ]}
      />
      <header className="flex flex-wrap items-start justify-between gap-3">
        <h1 className="text-2xl font-semibold tracking-tight">
          {QUANTITY_WORDS[trail.figure.quantity]} of{' '}
          <Link href={`/cells/${trail.cell}`} className="underline">
            {trail.cell}
          </Link>
        </h1>
        <PrintButton />
      </header>
      <h2 className="sr-only">How it came about</h2>
      <TrailContent trail={{ ...trail, at: trail.at?.toISOString() ?? null }} />
      {trail.runId !== null && trail.durationS !== null && (
        <section className="mt-5" aria-label="The samples it was read from">
          <h2 className="mb-1.5 font-semibold">The samples it was read from</h2>
          <TraceChart
            runId={trail.runId}
            name={trail.file?.name.replace(/\.\w+$/, '') ?? trail.cell}
            span={trail.figure.span ?? null}
            cutoffV={trail.cutoffOfRunV ?? 0}
            durationS={trail.durationS}
            holes={trail.holes}
          />
        </section>
      )}
    </article>
  );
}
