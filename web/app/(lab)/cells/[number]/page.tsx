import { historyOf, mayAct } from '@dusk-tally/lab';
import { photosOfLot } from '@dusk-tally/lab/arrivals';
import { stringsOfCell } from '@dusk-tally/lab/evidence';
import { restCurves, restsOfCell } from '@dusk-tally/lab/resting';
import {
  cellGrading,
  cellPage,
  holdsView,
  lotConditioning,
  movesOfCell,
} from '@dusk-tally/lab/verdicts';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Link } from '@/kit/link';
import { CellArrival } from '@/features/arrivals/cell-arrival';
import { ControlCell } from '@/features/evidence/channels/control-cell';
import { CellKeys } from '@/features/evidence/cell-keys';
import { LabelForm } from '@/features/arrivals/label-form';
import { RunPanel } from '@/features/evidence/run-panel';
import { TypedReadings } from '@/features/evidence/typed-readings';
import { RestList } from '@/features/resting/rest-list';
import { CellStrings } from '@/features/evidence/strings/cell-strings';
import { ConditioningTable } from '@/features/verdicts/conditioning-table';
import { CellLife } from '@/features/verdicts/cell-life';
import { LIFE_STATES } from '@dusk-tally/core/stock';
import { CellDoubtsPanel } from '@/features/evidence/cell-doubts';
import { HoldsOfCell } from '@/features/verdicts/held-results';
import { ReadingActs, RunActs } from '@/features/verdicts/run-acts';
import { CellStanding } from '@/features/verdicts/cell-standing';
import { GradeDecisions } from '@/features/verdicts/schemes/grade-decisions';
import { ClaimedItems } from '@/features/verdicts/claimed-items';
import { Empty } from '@/kit/page';
import { TallyStrip } from '@/kit/tally-strip';
import { lab } from '@/lib/lab';
import { lotContext, orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';
import { Crumbs } from '@/kit/crumbs';
import { History } from '@/kit/history';

export async function generateMetadata({ params }: { params: Promise<{ number: string }> }) {
  return { title: (await params).number };
}

const STEP =
  'inline-flex min-h-9 items-center gap-1 rounded-sm border border-rule px-3 hover:bg-wash';

/** The cells before and after it in the lot. */
function Neighbours({ previous, next }: { previous: string | null; next: string | null }) {
  return (
    <nav aria-label="Neighbours" className="flex gap-1">
      {previous && (
        <Link href={`/cells/${previous}`} className={STEP}>
          <ChevronLeft size={16} aria-hidden />
          {previous}
        </Link>
      )}
      {next && (
        <Link href={`/cells/${next}`} className={STEP}>
          {next}
          <ChevronRight size={16} aria-hidden />
        </Link>
      )}
    </nav>
  );
}

/** Its runs, the one that counts among them; where to bring one in while there is none. */
function Runs({
  page: { runs, line, cell, lot },
  mayLead,
}: {
  page: Awaited<ReturnType<typeof cellPage>>;
  mayLead: boolean;
}) {
  if (runs.length === 0)
    return (
      <Empty title="No log of this cell yet">
        Bring one in under{' '}
        <Link href={`/lots/${lot.code}/logs`} className="underline">
          Logs
        </Link>{' '}
        of its lot, or type what the tester showed under{' '}
        <Link href={`/lots/${lot.code}/readings`} className="underline">
          Readings
        </Link>
        .
      </Empty>
    );
  return runs.map((run) => {
    const held = line.holds.filter(({ runId }) => runId === run.id).map(({ rule }) => rule);
    return (
      <RunPanel
        key={run.id}
        run={run}
        counts={run.figures.some(({ id }) => id === line.capacityRawFigureId)}
        held={held}
        acts={
          <RunActs
            runId={run.id}
            cell={cell.number}
            isAside={held.includes('byHand')}
            mayLead={mayLead}
          />
        }
      />
    );
  });
}

export default async function CellPage({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params;
  const who = await requireActor();
  const page = await orNotFound(cellPage(lab(), who, { number }));
  const [holds, moves] = await Promise.all([
    holdsView(lab(), who, { lotId: page.lot.id, cellId: page.cell.id }),
    movesOfCell(lab(), who, { cellId: page.cell.id }),
  ]);
  const [photos, history, rests, losses, conditioning, strings, grading] = await Promise.all([
    photosOfLot(lab(), who, { lotId: page.lot.id }),
    historyOf(lab(), who, { subjectType: 'cell', subjectId: number }),
    restsOfCell(lab(), who, { cellId: page.cell.id }),
    restCurves(lab(), who, { cellId: page.cell.id }),
    lotConditioning(lab(), who, { lotId: page.lot.id, cellId: page.cell.id }),
    stringsOfCell(lab(), who, { lotId: page.lot.id, cellId: page.cell.id }),
    cellGrading(lab(), who, { cellId: page.cell.id }),
  ]);
  const { head } = await lotContext(page.lot.code);
  const { cell, line, readings } = page;
  const mayLead = mayAct(who.role, 'lead');
  const aside = new Set(
    holds
      .filter(({ rule, liftedAt }) => rule === 'byHand' && liftedAt === null)
      .map(({ readingId }) => readingId),
  );
  return (
    <>
      <CellKeys previous={page.previous} next={page.next} />
      <Crumbs
        way={[
          { href: '/arrivals', name: 'Lots' },
          { href: `/lots/${page.lot.code}/cells`, name: page.lot.title },
        ]}
      />
      <header className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div>
          <h1 className="text-2xl font-semibold tracking-tight">{cell.number}</h1>
          <p className="text-quiet">
            Cell {cell.position} of {head.lot.quantity}, {LIFE_STATES[line.life]}
          </p>
          {(mayLead || cell.controlSince) && (
            <ControlCell number={cell.number} since={cell.controlSince} mayLead={mayLead} />
          )}
        </div>
        <LabelForm
          key={cell.version}
          cellId={cell.id}
          version={cell.version}
          label={cell.label ?? ''}
        />
        <Neighbours previous={page.previous} next={page.next} />
      </header>
      <TallyStrip key={number} strokes={head.strokes} rowHeight={44} selected={cell.number} />
      <div className="mt-4 space-y-5">
        <HoldsOfCell
          holds={holds}
          channel={line.holds.find(({ rule }) => rule === 'channel')?.text ?? null}
          mayLead={mayLead}
          moves={moves}
        />
        <CellStanding line={line} items={page.items} />
        <GradeDecisions cellId={cell.id} grading={grading} mayLead={mayLead} />
        <ClaimedItems items={page.items} />
        <CellDoubtsPanel
          number={cell.number}
          doubts={page.doubts}
          retightenedAt={cell.retightenedAt?.toISOString() ?? null}
        />
        <Runs page={page} mayLead={mayLead} />
        <CellArrival
          cell={cell}
          arrival={page.arrival}
          findings={page.findings}
          recoveries={page.recoveries}
          pack={page.pack}
          photos={photos}
          arrivedOn={page.lot.arrivedOn}
          mayLead={mayLead}
        />
        <RestList rests={rests} curves={losses} />
        <ConditioningTable conditioning={conditioning} />
        <CellStrings strings={strings} />
        <CellLife life={page.life} />
        <TypedReadings
          readings={readings}
          acts={({ id, kind, value }) =>
            kind === 'capacity' &&
            value !== null &&
            !aside.has(id) && <ReadingActs readingId={id} />
          }
        />
        <History entries={history} title="What was done with it" />
      </div>
    </>
  );
}
