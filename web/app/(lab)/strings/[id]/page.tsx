import { formatDuration } from '@dusk-tally/core/units';
import { stringPage } from '@dusk-tally/lab/evidence';
import { cellLines } from '@dusk-tally/lab/verdicts';
import { StringWhole } from '@/features/evidence/strings/string-whole';
import { TakeBackString } from '@/features/evidence/strings/take-back-string';
import { Crumbs } from '@/kit/crumbs';
import { LabDay, LabMoment } from '@/kit/lab-time';
import { PageHead } from '@/kit/page';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'String' };

/** One watched string. */
export default async function WatchedStringPage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const page = await orNotFound(stringPage(lab(), who, { stringId: idOf((await params).id) }));
  const lines = await cellLines(lab(), page.lotId);
  const { startedAt, takenBack, findings } = page;
  return (
    <>
      <Crumbs
        way={[
          { href: `/lots/${page.lotCode}/cells`, name: page.lotCode },
          { href: `/lots/${page.lotCode}/strings`, name: 'Strings' },
        ]}
      />
      <PageHead
        title={page.name}
        lead={
          <>
            {page.cells.length} cells in series over {formatDuration(page.durationS)}
            {startedAt && (
              <>
                {' '}
                from <LabMoment at={startedAt} />
              </>
            )}
            ; {page.fileName}, voltages to {page.decimalsV} decimals.
          </>
        }
      >
        {!takenBack && <TakeBackString of={page} />}
      </PageHead>
      {takenBack && (
        <p className="panel mb-4 border-l-4 border-doubt p-3">
          Taken back by {takenBack.by} on <LabDay at={takenBack.at} />: {takenBack.why}. It says
          nothing of its cells any more.
        </p>
      )}
      {findings.length > 0 && (
        <ul className="panel mb-4 space-y-1 p-3" aria-label="What was noticed">
          {findings.map(({ text, severity }) => (
            <li
              key={text}
              className={`border-l-4 pl-2 ${severity === 'warning' ? 'border-doubt' : 'border-rule text-quiet'}`}
            >
              {text}
            </li>
          ))}
        </ul>
      )}
      <StringWhole
        page={page}
        lotCells={lines.map(({ id, number, label }) => ({ id, number, label }))}
      />
    </>
  );
}
