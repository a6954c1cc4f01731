import { READING_PURPOSES } from '@dusk-tally/core/arrivals';
import { historyOf, mayAct } from '@dusk-tally/lab';
import { photosOfLot } from '@dusk-tally/lab/arrivals';
import { cellPage, holdsView, movesOfCell } from '@dusk-tally/lab/verdicts';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import Link from 'next/link';
import { CellArrival } from '@/features/arrivals/cell-arrival';
import { ControlCell } from '@/features/evidence/channels/control-cell';
import { CellKeys } from '@/features/evidence/cell-keys';
import { LabelForm } from '@/features/arrivals/label-form';
import { RunPanel } from '@/features/evidence/run-panel';
import { QUANTITY_WORDS } from '@/kit/quantity-words';
import { CellLife } from '@/features/verdicts/cell-life';
import { LabMoment } from '@/kit/lab-time';
import { LIFE_STATES } from '@dusk-tally/core/stock';
import { CellDoubtsPanel } from '@/features/evidence/cell-doubts';
import { HoldsOfCell } from '@/features/verdicts/held-results';
import { ReadingActs, RunActs } from '@/features/verdicts/run-acts';
import { CellStanding } from '@/features/verdicts/cell-standing';
import { ClaimedItems } from '@/features/verdicts/claimed-items';
import { Empty } from '@/kit/page';
import { TallyStrip } from '@/kit/tally-strip';
import { lab } from '@/lib/lab';
import { lotContext, orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';
import { Crumbs } from '@/kit/crumbs';
import { History } from '@/kit/history';
import { Table } from '@/kit/table';

export async function generateMetadata({ params }: { params: Promise<{ number: string }> }) {
  return { title: (await params).number };
}

export default async function CellPage({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params;
  const who = await requireActor();
  const page = await orNotFound(cellPage(lab(), who, { number }));
  const [holds, moves] = await Promise.all([
    holdsView(lab(), who, { lotId: page.lot.id, cellId: page.cell.id }),
    movesOfCell(lab(), who, { cellId: page.cell.id }),
  ]);
  const [photos, history] = await Promise.all([
    photosOfLot(lab(), who, { lotId: page.lot.id }),
    historyOf(lab(), who, { subjectType: 'cell', subjectId: number }),
  ]);
  const { head } = await lotContext(page.lot.code);
  const { cell, line, runs, readings } = page;
  const countingRun = runs.find((run) =>
    run.figures.some((figure) => figure.id === line.capacityRawFigureId),
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
          {(mayAct(who.role, 'lead') || cell.controlSince) && (
            <ControlCell
              number={cell.number}
              since={cell.controlSince}
              mayLead={mayAct(who.role, 'lead')}
            />
          )}
        </div>
        <LabelForm
          key={cell.version}
          cellId={cell.id}
          version={cell.version}
          label={cell.label ?? ''}
        />
        <nav aria-label="Neighbours" className="flex gap-1">
          {page.previous && (
            <Link
              href={`/cells/${page.previous}`}
              className="inline-flex min-h-9 items-center gap-1 rounded-sm border border-rule px-3 hover:bg-wash"
            >
              <ChevronLeft size={16} aria-hidden />
              {page.previous}
            </Link>
          )}
          {page.next && (
            <Link
              href={`/cells/${page.next}`}
              className="inline-flex min-h-9 items-center gap-1 rounded-sm border border-rule px-3 hover:bg-wash"
            >
              {page.next}
              <ChevronRight size={16} aria-hidden />
            </Link>
          )}
        </nav>
      </header>
      <TallyStrip key={number} strokes={head.strokes} rowHeight={44} selected={cell.number} />
      <div className="mt-4 space-y-5">
        <HoldsOfCell
          holds={holds}
          channel={line.holds.find(({ rule }) => rule === 'channel')?.text ?? null}
          mayLead={mayAct(who.role, 'lead')}
          moves={moves}
        />
        <CellStanding line={line} items={page.items} />
        <ClaimedItems items={page.items} />
        <CellDoubtsPanel
          number={cell.number}
          doubts={page.doubts}
          retightenedAt={cell.retightenedAt?.toISOString() ?? null}
        />
        {runs.map((run) => {
          const held = line.holds.filter(({ runId }) => runId === run.id).map(({ rule }) => rule);
          return (
            <RunPanel
              key={run.id}
              run={run}
              counts={run.id === countingRun?.id}
              held={held}
              acts={
                <RunActs
                  runId={run.id}
                  cell={cell.number}
                  isAside={held.includes('byHand')}
                  mayLead={mayAct(who.role, 'lead')}
                />
              }
            />
          );
        })}
        {runs.length === 0 && (
          <Empty title="No log of this cell yet">
            Bring one in under{' '}
            <Link href={`/lots/${page.lot.code}/logs`} className="underline">
              Logs
            </Link>{' '}
            of its lot, or type what the tester showed under{' '}
            <Link href={`/lots/${page.lot.code}/readings`} className="underline">
              Readings
            </Link>
            .
          </Empty>
        )}
        <CellArrival
          cell={cell}
          arrival={page.arrival}
          findings={page.findings}
          recoveries={page.recoveries}
          pack={page.pack}
          photos={photos}
          arrivedOn={page.lot.arrivedOn}
          mayLead={mayAct(who.role, 'lead')}
        />
        <CellLife life={page.life} />
        {readings.length > 0 && (
          <section className="panel p-4">
            <h2 className="font-semibold">Typed readings</h2>
            <Table className="mt-1 w-full">
              <thead>
                <tr>
                  <th>What</th>
                  <th className="num">Value</th>
                  <th>By</th>
                  <th>Instrument</th>
                  <th>When</th>
                </tr>
              </thead>
              <tbody>
                {readings.map((reading) => (
                  <tr key={reading.id}>
                    <td>
                      {QUANTITY_WORDS[reading.kind]}
                      {reading.kind === 'openCircuitVoltage' && (
                        <span className="block text-[0.78rem] text-quiet">
                          {READING_PURPOSES[reading.purpose].words}
                        </span>
                      )}
                    </td>
                    <td className="num">
                      {reading.value === null
                        ? 'taken back'
                        : reading.value.toFixed(reading.decimals)}
                      {reading.repeats && (
                        <span className="block text-[0.78rem] text-quiet">
                          median of {reading.repeats.join(', ')}
                        </span>
                      )}
                    </td>
                    <td>{reading.person}</td>
                    <td>
                      {reading.instrument ?? 'not described'}
                      {reading.keptDespite && (
                        <span className="block text-[0.82rem] text-doubt">
                          Asked: {reading.keptDespite} Kept.
                        </span>
                      )}
                      {reading.kind === 'capacity' &&
                        reading.value !== null &&
                        !holds.some(
                          ({ readingId, rule, liftedAt }) =>
                            readingId === reading.id && rule === 'byHand' && liftedAt === null,
                        ) && <ReadingActs readingId={reading.id} />}
                    </td>
                    <td className="whitespace-nowrap">
                      <LabMoment at={reading.at} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </section>
        )}
        <History entries={history} title="What was done with it" />
      </div>
    </>
  );
}
