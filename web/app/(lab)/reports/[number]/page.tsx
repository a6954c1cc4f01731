import { reportPage } from '@dusk-tally/lab/reports';
import { Link } from '@/kit/link';
import { SnapshotView } from '@/features/reports/snapshot-view';
import { ButtonLink } from '@/kit/button';
import { PageHead } from '@/kit/page';
import { LabDay } from '@/kit/lab-time';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Report' };

export default async function IssuedReportPage({
  params,
}: {
  params: Promise<{ number: string }>;
}) {
  const { number } = await params;
  const { snapshot, sha256, lot } = await orNotFound(
    reportPage(lab(), await requireActor(), { number }),
  );
  return (
    <>
      <Crumbs
        way={[
          { href: '/reports', name: 'Reports' },
          { href: `/lots/${lot}/report`, name: lot },
        ]}
      />
      <PageHead
        title={`Report ${number}`}
        lead={
          <>
            For {snapshot.customer}, issued <LabDay at={new Date(snapshot.issuedAt)} /> by{' '}
            {snapshot.issuedBy}, from{' '}
            <Link href={`/lots/${lot}`} className="underline">
              {lot}
            </Link>
            .
          </>
        }
      >
        <ButtonLink
          look="primary"
          href={`/api/reports/${number}/pdf`}
          prefetch={false}
          download={`${number}.pdf`}
        >
          Download the PDF
        </ButtonLink>
      </PageHead>
      <SnapshotView snapshot={snapshot} />
      <p className="mt-4 break-all text-[0.78rem] text-quiet">Snapshot SHA-256 {sha256}</p>
    </>
  );
}
