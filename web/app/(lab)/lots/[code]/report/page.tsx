import { mayAct } from '@dusk-tally/lab';
import { labSettings } from '@dusk-tally/lab/people';
import { listReports } from '@dusk-tally/lab/reports';
import { cellLines } from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { ReportForm } from '@/features/reports/report-form';
import { ReportList } from '@/features/reports/report-list';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Report' };

export default async function ReportPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const [lines, reports, { language }] = await Promise.all([
    cellLines(lab(), head.lot.id),
    listReports(lab(), who, { lotId: head.lot.id }),
    labSettings(lab(), who, {}),
  ]);
  return (
    <LotFrame head={head} tab="report">
      {head.tested + head.resistances === 0 ? (
        <Empty title="Nothing to report yet">
          A report needs at least one figure. Bring in logs or type readings first.
        </Empty>
      ) : (
        <ReportForm
          lotId={head.lot.id}
          code={head.lot.code}
          language={language}
          mayIssue={mayAct(who.role, 'lead')}
          cells={lines.map(({ id, number, capacityAh, acMohm, grade }) => ({
            id,
            number,
            tested: capacityAh !== null || acMohm !== null,
            grade,
          }))}
        />
      )}
      {reports.length > 0 && (
        <div className="panel mt-5 overflow-x-auto p-2">
          <ReportList reports={reports} />
        </div>
      )}
    </LotFrame>
  );
}
