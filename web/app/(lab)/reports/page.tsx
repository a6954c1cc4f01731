import { listReports } from '@dusk-tally/lab/reports';
import { ReportList } from '@/features/reports/report-list';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Reports' };

export default async function ReportsPage() {
  const reports = await listReports(lab(), await requireActor(), {});
  return (
    <>
      <PageHead
        title="Reports"
        lead="What buyers hold. Each is made from a frozen snapshot and never changes."
      />
      {reports.length === 0 ? (
        <Empty title="No report is issued yet">
          Open a lot and choose Report: pick cells, name the customer, issue.
        </Empty>
      ) : (
        <div className="panel overflow-x-auto p-2">
          <ReportList reports={reports} />
        </div>
      )}
    </>
  );
}
