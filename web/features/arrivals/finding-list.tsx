'use client';

import { findingKind, GATE_WORDS } from '@dusk-tally/core/arrivals';
import type { FindingView, PhotoView } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { makeGoodAct, withdrawFindingAct } from './arrival-acts';
import { PhotoDrop } from './photo-drop';

const STATE = { open: 'open', madeGood: 'made good', withdrawn: 'taken back' };
/** So many are listed at once; the strip and the cell pages show the rest. */
const MOST_LISTED = 60;

/** Findings with what follows from each, open ones first. */
export function FindingList({
  lotId,
  findings,
  numbers,
  photos,
  mayLead,
}: {
  lotId: number;
  findings: FindingView[];
  numbers: ReadonlyMap<number, string>;
  photos: PhotoView[];
  mayLead: boolean;
}) {
  if (findings.length === 0) return null;
  const rank = { stop: 0, serious: 1, note: 2 };
  const sorted = [...findings].sort(
    (a, b) =>
      Number(a.state !== 'open') - Number(b.state !== 'open') ||
      rank[a.severity] - rank[b.severity] ||
      b.id - a.id,
  );
  return (
    <section className="panel p-4" aria-label="Findings">
      <h2 className="font-semibold">Findings</h2>
      <ul className="mt-1 divide-y divide-rule">
        {sorted.slice(0, MOST_LISTED).map((finding) => (
          <FindingRow
            key={finding.id}
            lotId={lotId}
            finding={finding}
            number={numbers.get(finding.cellId) ?? ''}
            photos={photos}
            mayLead={mayLead}
          />
        ))}
      </ul>
      {sorted.length > MOST_LISTED && (
        <p className="mt-2 text-quiet">
          And {sorted.length - MOST_LISTED} more; each stands on its cell’s page.
        </p>
      )}
    </section>
  );
}

const LINE = 'mt-2 flex flex-wrap items-end gap-3';

/** What was done about a finding, and how the cell is now. */
function MakeGood({ finding, close }: { finding: FindingView; close: () => void }) {
  const form = useLabForm({
    schema: 'makeGoodInput',
    first: { findingId: finding.id, before: '', done: '' },
    act: makeGoodAct,
    done: close,
  });
  return (
    <Form
      of={form}
      label="Made good"
      act="Keep"
      look="plain"
      className={LINE}
      beside={
        <Button look="bare" onClick={close}>
          Not now
        </Button>
      }
    >
      <TextField name="before" label="Before" className="min-w-56 flex-1" />
      <TextField
        name="done"
        label="Done, and how it is now"
        placeholder={findingKind(finding.code).madeGoodBy}
        className="min-w-56 flex-1"
      />
    </Form>
  );
}

/** Takes a finding back that was a mistake. */
function Withdraw({ findingId, close }: { findingId: number; close: () => void }) {
  const form = useLabForm({
    schema: 'withdrawInput',
    first: { findingId, reason: '' },
    act: withdrawFindingAct,
    done: close,
  });
  return (
    <Form
      of={form}
      label="A mistake"
      act="Take it back"
      look="plain"
      className={LINE}
      beside={
        <Button look="bare" onClick={close}>
          Not now
        </Button>
      }
    >
      <TextField name="reason" label="Why it was none" className="min-w-72 flex-1" />
    </Form>
  );
}

function FindingRow({
  lotId,
  finding,
  number,
  photos,
  mayLead,
}: {
  lotId: number;
  finding: FindingView;
  number: string;
  photos: PhotoView[];
  mayLead: boolean;
}) {
  const { severity, state, settled } = finding;
  const [doing, setDoing] = useState<'makeGood' | 'withdraw' | 'photo' | null>(null);
  const close = () => setDoing(null);
  const own = photos.filter(
    (photo) => photo.subjectType === 'finding' && photo.subjectId === finding.id,
  ).length;
  const mayWithdraw = severity !== 'stop' || mayLead;
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Link href={`/cells/${number}`} className="font-medium hover:underline">
          {number}
        </Link>
        <span
          className={
            state !== 'open'
              ? 'text-quiet line-through'
              : { stop: 'text-missed', serious: 'text-doubt', note: '' }[severity]
          }
        >
          {finding.words}
        </span>
        <span className="text-quiet">
          {state === 'open'
            ? { stop: GATE_WORDS.quarantined, serious: GATE_WORDS.blocked, note: 'noted' }[severity]
            : STATE[state]}
          {finding.note && `; ${finding.note}`}; {finding.person}
        </span>
        <span className="ml-auto flex gap-1.5">
          {state === 'open' && severity === 'serious' && (
            <Button className="min-h-9" onClick={() => setDoing('makeGood')}>
              Made good …
            </Button>
          )}
          {state !== 'withdrawn' && (
            <Button
              look="bare"
              className="min-h-9"
              aria-expanded={doing === 'photo'}
              onClick={() => setDoing(doing === 'photo' ? null : 'photo')}
            >
              {own > 0 ? `Photographs (${own})` : 'Photograph'}
            </Button>
          )}
          {state === 'open' && mayWithdraw && (
            <Button look="bare" className="min-h-9" onClick={() => setDoing('withdraw')}>
              A mistake …
            </Button>
          )}
        </span>
      </div>
      {settled && (
        <p className="text-[0.85rem] text-quiet">
          {settled.before && `Before: ${settled.before}. `}
          {settled.note}; {settled.by}
        </p>
      )}
      {doing === 'photo' && (
        <PhotoDrop
          lotId={lotId}
          subject={{ type: 'finding', id: finding.id }}
          photos={photos}
          title={`${number}, ${finding.words}`}
        />
      )}
      {doing === 'makeGood' && <MakeGood finding={finding} close={close} />}
      {doing === 'withdraw' && <Withdraw findingId={finding.id} close={close} />}
    </li>
  );
}
