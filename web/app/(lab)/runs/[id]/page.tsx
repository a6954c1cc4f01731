import { CLAMPING_WORDS } from '@dusk-tally/core/chemistry';
import { formatDuration } from '@dusk-tally/core/units';
import { runPage } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { CheckRun } from '@/features/evidence/check-run';
import { StringPanel } from '@/features/bench/string-panel';
import { ChargesPanel, InverterPanel } from '@/features/evidence/run-extras';
import { holesOf } from '@/features/evidence/holes-of';
import { TraceChart } from '@/features/evidence/trace-chart';
import { WindowPanel } from '@/features/evidence/window-panel';
import { QUANTITY_WORDS } from '@/kit/quantity-words';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';
import { LabDay } from '@/kit/lab-time';
import { Crumbs } from '@/kit/crumbs';
import { Table } from '@/kit/table';
import { idOf } from '@/lib/id-param';

export const metadata = { title: 'Run' };

const TIME_STYLE = {
  number: 'as a number',
  clock: 'as an elapsed clock',
  stamp: 'as dates with times',
};

type View = Awaited<ReturnType<typeof runPage>>;
type Summary = View['run']['summary'];

function Noticed({ findings }: { findings: Summary['findings'] }) {
  if (findings.length === 0) return null;
  return (
    <section aria-label="What was noticed" className="panel mb-4 p-4">
      <h2 className="font-semibold">What was noticed</h2>
      <ul className="mt-1 space-y-1">
        {findings.map((finding) => (
          <li
            key={finding.text}
            className={`border-l-4 pl-2 ${finding.severity === 'warning' ? 'border-doubt' : 'border-rule text-quiet'}`}
          >
            {finding.text}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Figures({ figures, runId }: { figures: View['figures']; runId: number }) {
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Figures</h2>
      <Table className="mt-1 w-full">
        <tbody>
          {figures.map((figure) => (
            <tr key={figure.id}>
              <td>
                {QUANTITY_WORDS[figure.quantity]}
                {figure.cutoffV !== null && (
                  <span className="text-quiet"> to {figure.cutoffV} V</span>
                )}
              </td>
              <td className="num">
                <TrailLink figureId={figure.id}>
                  <FigureText
                    value={figure.value}
                    U={figure.standardUncertainty === null ? null : 2 * figure.standardUncertainty}
                    unit={figure.unit}
                    bound={figure.bound}
                  />
                </TrailLink>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <div className="mt-3">
        <CheckRun runId={runId} />
      </div>
    </section>
  );
}

/** What the log was cut into, and how its columns were understood. */
function HowItWasRead({ summary, sha256 }: { summary: Summary; sha256: string }) {
  const { dialect } = summary;
  return (
    <section className="panel p-4 lg:col-span-2">
      <h2 className="font-semibold">What the log was cut into</h2>
      <Table className="mt-1 w-full">
        <thead>
          <tr>
            <th>Section</th>
            <th className="num">From / h</th>
            <th className="num">To / h</th>
            <th className="num">Charge / Ah</th>
          </tr>
        </thead>
        <tbody>
          {summary.sections.slice(0, 60).map((section) => (
            <tr key={section.fromIndex}>
              <td>{section.kind}</td>
              <td className="num">{(section.fromS / 3600).toFixed(4)}</td>
              <td className="num">{(section.toS / 3600).toFixed(4)}</td>
              <td className="num">{section.ah > 0 ? section.ah.toFixed(4) : ''}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <h2 className="mt-4 font-semibold">How the file was read</h2>
      <p className="text-quiet">
        {dialect.encoding}, columns parted by{' '}
        {{ '\t': 'tabs', ' ': 'blanks' }[dialect.delimiter] ?? `“${dialect.delimiter}”`}, decimal{' '}
        {dialect.decimalMark === ',' ? 'comma' : 'point'}, header in row {dialect.headerRow}, time{' '}
        {TIME_STYLE[dialect.timeStyle]}. Columns:{' '}
        {dialect.columns
          .map(
            (column) =>
              `“${column.header}” ${column.role === 'ignored' ? 'not used' : `as ${column.role}${column.unit ? ` in ${column.unit.symbol}` : ''}`}`,
          )
          .join(', ')}
        .
      </p>
      <p className="mt-1 break-all text-[0.78rem] text-quiet">SHA-256 {sha256}</p>
    </section>
  );
}

/** One run: the whole log, what it was cut into, every figure, and how the file was read. */
export default async function RunPage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const view = await orNotFound(runPage(lab(), who, { id: idOf((await params).id) }));
  const { run, figures, file } = view;
  const { summary } = run;
  const span =
    summary.loadOnS !== null && summary.endS !== null
      ? { fromS: summary.loadOnS, toS: summary.endS }
      : null;
  return (
    <>
      <Crumbs
        way={[
          { href: `/lots/${view.lot.code}/cells`, name: view.lot.title },
          { href: `/cells/${view.cell.number}`, name: view.cell.number },
        ]}
      />
      <header className="mb-4">
        <h1 className="text-2xl font-semibold tracking-tight">{file.name}</h1>
        <p className="text-quiet">
          A run of{' '}
          <Link href={`/cells/${view.cell.number}`} className="underline">
            {view.cell.number}
          </Link>{' '}
          in{' '}
          <Link href={`/lots/${view.lot.code}/cells`} className="underline">
            {view.lot.title}
          </Link>
          , {run.rows} rows over {formatDuration(run.durationS)},{' '}
          {view.channel ?? view.instrument ?? 'tester not described'}
          {run.ambientC !== null && `, room at ${run.ambientC} °C`}
          {run.clamping !== null && `, held ${CLAMPING_WORDS[run.clamping]}`}
          {run.leadMohm !== null && `, two-wire with ${run.leadMohm} mΩ of leads`}; taken in by{' '}
          {view.person} on <LabDay at={run.createdAt} />.
        </p>
      </header>
      <Noticed findings={summary.findings} />
      <section className="panel p-4">
        <TraceChart
          runId={run.id}
          name={file.name.replace(/\.\w+$/, '')}
          span={span}
          cutoffV={summary.cutoffV}
          durationS={run.durationS}
          holes={holesOf(summary)}
          decimals={view.decimals}
          tall
        />
      </section>
      <div className="mt-4 grid items-start gap-4 lg:grid-cols-2">
        <Figures figures={figures} runId={run.id} />
        <div className="space-y-4">
          <ChargesPanel charges={view.charges} />
          <InverterPanel inverter={view.inverter} reason={view.inverterReason} />
          {summary.string && (
            <StringPanel string={summary.string} names={view.stringTest?.cells}>
              <p className="mt-2">
                <Link
                  className="underline"
                  href={
                    view.stringTest
                      ? `/bench/load-test/${view.stringTest.id}`
                      : `/bench/load-test/new?run=${run.id}`
                  }
                >
                  {view.stringTest ? 'Its load test' : 'Say which cells these are'}
                </Link>
              </p>
            </StringPanel>
          )}
          {span && <WindowPanel runId={run.id} cutoffV={summary.cutoffV} />}
        </div>
        <HowItWasRead summary={summary} sha256={file.sha256} />
      </div>
    </>
  );
}
