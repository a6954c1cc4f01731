import { disputeFilePage } from '@dusk-tally/lab/disputes';
import { notFound } from 'next/navigation';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { FileView } from '@/features/money/dispute/file-view';
import { ButtonLink } from '@/kit/button';
import { Crumbs } from '@/kit/crumbs';
import { LabDay } from '@/kit/lab-time';
import { lab } from '@/lib/lab';
import { lotContext, orNotFound } from '@/lib/lot-page';

export const metadata = { title: 'Dispute file' };

/** A dispute file of a lot on screen. */
export default async function DisputeFileScreen({
  params,
}: {
  params: Promise<{ code: string; number: string }>;
}) {
  const { code, number } = await params;
  const { who, head } = await lotContext(code);
  const page = await orNotFound(disputeFilePage(lab(), who, { number }));
  if (page.lotCode !== head.lot.code) notFound();
  const { snapshot, sha256 } = page;
  const money = `/lots/${head.lot.code}/money`;
  return (
    <LotFrame head={head} tab="money">
      <Crumbs
        way={[
          { href: money, name: 'Money' },
          { href: `${money}/dispute`, name: 'Dispute' },
        ]}
      />
      <div className="mb-4 flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="text-lg font-semibold">Dispute file {page.number}</h2>
          <p className="text-quiet">
            Made by {snapshot.issuedBy}, <LabDay at={new Date(snapshot.issuedAt)} />.
          </p>
        </div>
        <ButtonLink
          look="primary"
          href={`/api/disputes/files/${page.number}/pdf`}
          prefetch={false}
          download={`${page.number}.pdf`}
        >
          Download the PDF
        </ButtonLink>
      </div>
      <FileView page={page} />
      <p className="mt-4 break-all text-[0.78rem] text-quiet">SHA-256 of the data {sha256}</p>
    </LotFrame>
  );
}
