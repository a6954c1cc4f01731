import type { ReportView } from '@dusk-tally/lab/reports';
import { Link } from '@/kit/link';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';

/** Issued reports, newest first. */
export function ReportList({ reports }: { reports: ReportView[] }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Report</th>
          <th>Customer</th>
          <th>Issued</th>
          <th>Fingerprint of the snapshot</th>
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {reports.map((report) => (
          <tr key={report.id} className="hover:bg-wash">
            <td>
              <Link href={`/reports/${report.number}`} className="font-medium hover:underline">
                {report.number}
              </Link>
            </td>
            <td>{report.customer}</td>
            <td className="whitespace-nowrap">
              <LabDay at={report.createdAt} />
            </td>
            <td className="font-mono text-[0.78rem] text-quiet">{report.sha256.slice(0, 16)}…</td>
            <td className="text-right">
              <a href={`/api/reports/${report.number}/pdf`} className="text-ember hover:underline">
                PDF
              </a>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
