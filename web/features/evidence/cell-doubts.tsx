'use client';

import type { CellDoubts } from '@dusk-tally/lab/verdicts';
import { Check, CircleHelp, X } from 'lucide-react';
import { Link } from '@/kit/link';
import { Button } from '@/kit/button';
import { FigureText } from '@/kit/figure-text';
import { useAct } from '@/kit/use-act';
import { recordRetightenedAct } from './acts';
import { LabMoment } from '@/kit/lab-time';

const SUSPECT = {
  joint: 'Suspect the connection, not the cell.',
  cell: 'It is the cell.',
  open: 'Cell or connection? Not told apart yet.',
};
const ICON = { yes: Check, no: X, unknown: CircleHelp };

/** What does not add up about a cell, and what would settle it. */
export function CellDoubtsPanel({
  number,
  doubts,
  retightenedAt,
}: {
  number: string;
  doubts: CellDoubts;
  retightenedAt: string | null;
}) {
  const { run, busy, problem } = useAct();
  const { joint, findings, settleCapacity, settleAc, inStrings } = doubts;
  const settling = [
    { title: 'What would settle the capacity', settle: settleCapacity },
    { title: 'What would settle the AC resistance', settle: settleAc },
  ].filter(({ settle }) => settle !== null && settle.ways.length > 0);
  return (
    <>
      {settling.map(({ title, settle }) => (
        <section key={title} className="panel p-4" aria-label={title}>
          <h2 className="font-semibold">{title}</h2>
          <ul className="mt-1 list-disc space-y-1 pl-5">
            {settle!.ways.map((way) => (
              <li key={way}>{way}</li>
            ))}
          </ul>
        </section>
      ))}
      {findings.map(({ text, severity }) => (
        <p
          key={text}
          className={`border-l-4 pl-2 ${severity === 'warning' ? 'border-doubt' : 'border-rule text-quiet'}`}
        >
          {text}
        </p>
      ))}
      {inStrings.length > 0 && (
        <section className="panel p-4" aria-label="In a string">
          <h2 className="font-semibold">In a string under load</h2>
          <ul className="mt-1 space-y-1">
            {inStrings.map((one) => (
              <li key={one.testId}>
                <Link className="underline" href={`/bench/load-test/${one.testId}`}>
                  {one.title}
                </Link>
                , place {one.place}:{' '}
                <FigureText value={one.mohm} U={one.expandedMohm} unit="mΩ" bound="exact" />
                {one.standsOut ? (
                  <strong className="text-doubt">
                    {' '}
                    stands out
                    {one.badNeighbours.length > 0 &&
                      `, and so does its neighbour ${one.badNeighbours.join(' and ')}`}
                  </strong>
                ) : (
                  <span className="text-quiet"> like the others</span>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      {joint && (
        <section className="panel p-4" aria-label="Cell or connection">
          <h2 className="font-semibold">{SUSPECT[joint.suspect]}</h2>
          <p className="text-quiet">Under load it looks bad: {joint.why}</p>
          <dl className="mt-2 grid gap-3 sm:grid-cols-3">
            {joint.facts.map(({ question, answer, text, speaksFor }) => {
              const Icon = ICON[answer];
              return (
                <div key={question} className="rounded-sm border border-rule p-2.5">
                  <dt className="text-quiet">{question}</dt>
                  <dd className="mt-1">
                    <span className="inline-flex items-center gap-1 font-medium">
                      <Icon size={16} aria-hidden />
                      {answer === 'unknown' ? 'not known' : answer}
                    </span>
                    <span className="block text-[0.87rem]">{text}</span>
                    {speaksFor !== 'neither' && (
                      <span className="block text-[0.82rem] text-quiet">
                        speaks for the {speaksFor === 'joint' ? 'connection' : 'cell'}
                      </span>
                    )}
                  </dd>
                </div>
              );
            })}
          </dl>
          <p className="mt-2">{joint.advice}</p>
          <div className="mt-2 flex flex-wrap items-center gap-3">
            <Button
              disabled={busy}
              onClick={() => run((key) => recordRetightenedAct({ number }, key))}
            >
              Joint tightened again, repeat follows
            </Button>
            {retightenedAt && (
              <span className="text-quiet">
                Tightened again on <LabMoment at={retightenedAt} />; runs after that count as the
                repeat.
              </span>
            )}
          </div>
          {problem && <p role="alert">{problem}</p>}
          <p className="mt-2 text-[0.82rem] text-quiet">
            Take the string out of circuit before touching a joint: bars and tools short cells at
            full current. Local rules and licensed practice come first.
          </p>
        </section>
      )}
    </>
  );
}
