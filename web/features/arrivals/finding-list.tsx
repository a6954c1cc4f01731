'use client';

import { findingKind, GATE_WORDS } from '@dusk-tally/core/arrivals';
import type { FindingView, PhotoView } from '@dusk-tally/lab/arrivals';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { makeGoodAct, withdrawFindingAct } from './arrival-acts';
import { PhotoDrop } from './photo-drop';
import { useAct } from '@/kit/use-act';
import { Input, Label } from '@/kit/form-parts';

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
  const [before, setBefore] = useState('');
  const [done, setDone] = useState('');
  const { run, busy, problem } = useAct();
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
      {doing === 'makeGood' && (
        <form
          className="mt-2 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            run(() => makeGoodAct({ findingId: finding.id, before, done }), close);
          }}
        >
          <Label text="Before" className="min-w-56 flex-1">
            <Input autoFocus value={before} onChange={(event) => setBefore(event.target.value)} />
          </Label>
          <Label text="Done, and how it is now" className="min-w-56 flex-1">
            <Input
              placeholder={findingKind(finding.code).madeGoodBy}
              value={done}
              onChange={(event) => setDone(event.target.value)}
            />
          </Label>
          <Button type="submit" disabled={busy}>
            Keep
          </Button>
          <Button look="bare" onClick={close}>
            Not now
          </Button>
        </form>
      )}
      {doing === 'withdraw' && (
        <form
          className="mt-2 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            run(() => withdrawFindingAct({ findingId: finding.id, reason: done }), close);
          }}
        >
          <Label text="Why it was none" className="min-w-72 flex-1">
            <Input autoFocus value={done} onChange={(event) => setDone(event.target.value)} />
          </Label>
          <Button type="submit" disabled={busy}>
            Take it back
          </Button>
          <Button look="bare" onClick={close}>
            Not now
          </Button>
        </form>
      )}
      {problem && <Problem>{problem}</Problem>}
    </li>
  );
}
