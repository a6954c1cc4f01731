'use client';

import { centsText } from '@dusk-tally/core/money';
import type { DisputeView as View, LotDisputes, Overtaken } from '@dusk-tally/lab/disputes';
import dynamic from 'next/dynamic';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { Link } from '@/kit/link';
import { LabDay } from '@/kit/lab-time';
import { Empty, Problem } from '@/kit/page';
import { ReasonForm } from '@/kit/reason-form';
import { Table } from '@/kit/table';
import { useAct } from '@/kit/use-act';
import { draftLetterAct, issueFileAct, undoMoveAct } from './acts';
import { ChangeAskForm, MoveForm, OpenDisputeForm } from './dispute-forms';
import { Papers } from './papers';
import { overtakenWords, type Proposal, REMEDY_WORDS, STAGE_WORDS, windowWords } from './words';

/** The editor comes with the letters, not with every page. */
const LetterEditor = dynamic(() => import('./letter-editor').then((file) => file.LetterEditor), {
  ssr: false,
});

const ENDED = new Set(['paid', 'lost', 'dropped']);

/** A letter or a file that says what is not so any more. */
function OvertakenNote({ overtaken, ask }: { overtaken: readonly Overtaken[]; ask: string }) {
  const words = overtakenWords(overtaken, ask);
  return words && <p className="font-medium text-doubt">{words}</p>;
}

function Letters({
  view: { dispute, letters },
  ask,
  mayLead,
}: {
  view: View;
  ask: string;
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  return (
    <section className="space-y-3" aria-label="Letters">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-semibold">Letters</h3>
        <Button
          disabled={busy}
          onClick={() => run((key) => draftLetterAct({ disputeId: dispute.id }, key))}
        >
          Draft a letter
        </Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
      {letters.map((letter, i) => (
        <Fold
          key={letter.id}
          openAtFirst={i === 0 && !letter.isSent}
          title={`${letter.title}${letter.isSent ? ', went out' : ''}${letter.overtaken.length > 0 ? ', overtaken' : ''}`}
        >
          <OvertakenNote overtaken={letter.overtaken} ask={ask} />
          <LetterEditor key={`${letter.id} ${letter.isSent}`} letter={letter} mayLead={mayLead} />
        </Fold>
      ))}
    </section>
  );
}

function Files({
  view: { dispute, files },
  lotCode,
  ask,
  mayLead,
}: {
  view: View;
  lotCode: string;
  ask: string;
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  return (
    <section className="panel p-4" aria-label="Dispute files">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-semibold">Dispute file</h3>
        {mayLead && (
          <Button
            disabled={busy}
            onClick={() => run((key) => issueFileAct({ disputeId: dispute.id }, key))}
          >
            {busy ? 'One moment …' : 'Make it from what is known now'}
          </Button>
        )}
      </div>
      <p className="text-[0.87rem] text-quiet">
        The offer, what arrived, how it was measured and how surely, cell by cell, the lot against
        its claim, what is lacking and what is asked. Once made it does not change. Its number opens
        it on screen, where every figure opens its trail.
      </p>
      {problem && <Problem>{problem}</Problem>}
      <ul className="mt-2 space-y-1">
        {files.map(({ number, language, sha256, overtaken, who, at }) => (
          <li key={number} className="flex flex-wrap items-baseline gap-x-3">
            <Link
              href={`/lots/${lotCode}/money/dispute/${number}`}
              className="font-medium underline"
            >
              {number}
            </Link>
            <a href={`/api/disputes/files/${number}/pdf`} className="underline">
              PDF
            </a>
            <a href={`/api/disputes/files/${number}/json`} className="underline">
              data
            </a>
            <span className="text-quiet">
              {language === 'de' ? 'Deutsch' : 'English'}, {who}, <LabDay at={at} />, SHA-256{' '}
              {sha256.slice(0, 12)}…
            </span>
            <OvertakenNote overtaken={overtaken} ask={ask} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Events({ view: { events }, currency }: { view: View; currency: string }) {
  return (
    <Table label="What happened">
      <tbody>
        {events.map(({ id, stage, day, text, cents, undoes, who }) => (
          <tr key={id}>
            <td className="whitespace-nowrap">{day}</td>
            <td className="whitespace-nowrap">{STAGE_WORDS[stage]}</td>
            <td className="whitespace-pre-line">
              {undoes && <strong className="text-doubt">The step before was taken back: </strong>}
              {text}{' '}
              <span className="text-quiet">
                {cents !== null && `${centsText(cents)} ${currency}. `}({who})
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function OneDispute({
  view,
  lotCode,
  today,
  currency,
  proposal,
  mayLead,
}: {
  view: View;
  proposal: Proposal;
  lotCode: string;
  today: string;
  currency: string;
  mayLead: boolean;
}) {
  const { dispute, next, mayUndo } = view;
  const { stage, remedy, askCents, ground, gotCents } = dispute;
  const ask = `${centsText(askCents)} ${currency}`;
  return (
    <section className="space-y-4" aria-label={`Dispute, ${STAGE_WORDS[stage]}`}>
      <div className="panel space-y-3 p-4">
        <h2 className="text-lg font-semibold">
          {ask} asked, {STAGE_WORDS[stage]}
        </h2>
        <p className="text-quiet">
          As {REMEDY_WORDS[remedy]}.
          {ground !== null && ` Beyond what the books carry for: ${ground}.`}
          {gotCents !== null && ` ${centsText(gotCents)} ${currency} came back.`}
        </p>
        {mayLead && stage === 'draft' && (
          <ChangeAskForm
            key={dispute.version}
            view={view}
            currency={currency}
            proposal={proposal}
          />
        )}
        <Events view={view} currency={currency} />
        {mayLead && mayUndo && (
          <ReasonForm
            open="Take the last step back …"
            title="The last step was noted by mistake"
            note="Both stay in the history; it stands where it stood before."
            label="Why"
            does="Take it back"
            act={(reason, _form, key) =>
              undoMoveAct({ id: dispute.id, version: dispute.version, reason }, key)
            }
          />
        )}
        {mayLead && next.length > 0 && (
          <Fold title={ENDED.has(stage) ? 'Take it up again' : 'What happened next'}>
            <MoveForm key={dispute.version} view={view} today={today} currency={currency} />
          </Fold>
        )}
      </div>
      <Files view={view} lotCode={lotCode} ask={ask} mayLead={mayLead} />
      <Papers view={view} />
      <Letters view={view} ask={ask} mayLead={mayLead} />
    </section>
  );
}

/** Disputes about a lot: what is asked, what happened, letters, papers and files. */
export function DisputeView({
  lot,
  told,
  proposal,
  currency,
  mayLead,
}: {
  lot: { id: number; code: string };
  told: LotDisputes;
  proposal: Proposal;
  currency: string;
  mayLead: boolean;
}) {
  const { disputes, deadlineOn, daysLeft, today } = told;
  const isOpen = disputes.some(({ dispute }) => !ENDED.has(dispute.stage));
  const presses = daysLeft !== null && daysLeft >= 0 && daysLeft <= 3 && !isOpen;
  return (
    <div className="space-y-4">
      <p className={presses ? 'font-medium text-doubt' : 'text-quiet'} role="status">
        {windowWords(deadlineOn, daysLeft)}
      </p>
      {disputes.map((view) => (
        <OneDispute
          key={view.dispute.id}
          view={view}
          lotCode={lot.code}
          today={today}
          currency={currency}
          proposal={proposal}
          mayLead={mayLead}
        />
      ))}
      {!isOpen &&
        (mayLead ? (
          <div className="panel p-4">
            <OpenDisputeForm lotId={lot.id} proposal={proposal} currency={currency} />
          </div>
        ) : (
          disputes.length === 0 && (
            <Empty title="No dispute about this lot">A lead opens one.</Empty>
          )
        ))}
    </div>
  );
}
