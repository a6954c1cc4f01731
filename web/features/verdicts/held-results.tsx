'use client';

import { HOLD_WORDS } from '@dusk-tally/core/verdicts';
import type { HoldLine, LotVerdict, MoveLine } from '@dusk-tally/lab/verdicts';
import { CirclePause } from 'lucide-react';
import { Link } from '@/kit/link';
import { exchangeRunsAct, liftHoldAct } from './hold-actions';
import { ReasonForm } from '@/kit/reason-form';
import { LabDay } from '@/kit/lab-time';

/** What of a lot is held, first of all: how many results, why, and which cells. */
export function HeldOfLot({
  holds,
  heldCells,
  code,
}: Pick<LotVerdict, 'holds' | 'heldCells'> & { code: string }) {
  if (holds.length === 0) return null;
  // What a person set aside is decided: nobody has to look at it.
  const isOpen = holds.some(({ rule }) => rule !== 'byHand');
  const isAside = holds.some(({ rule }) => rule === 'byHand');
  const cells = new Set(holds.flatMap((hold) => hold.cells)).size;
  return (
    <section
      aria-label="Held results"
      className="panel mb-4 border-doubt p-4"
      data-testid="held-results"
    >
      <h2 className="flex items-center gap-2 font-semibold text-doubt">
        <CirclePause size={18} aria-hidden />
        Results of {cells} {cells === 1 ? 'cell are' : 'cells are'} {isOpen ? 'held' : 'set aside'}
      </h2>
      <p className="text-quiet">
        They say something of the evidence, not of the cells: they are kept and shown, and do not
        count{isOpen && ' until a lead has looked'}.{' '}
        {isOpen && isAside && 'What a person set aside does not count at all. '}
        {heldCells === 0
          ? 'Every one of these cells is judged by another result.'
          : `${cells - heldCells} of these cells are judged by another result; ${heldCells} ${heldCells === 1 ? 'has' : 'have'} none that counts.`}
      </p>
      <ul className="mt-2 space-y-1">
        {holds.map(({ rule, count, cells: own }) => (
          <li key={rule}>
            <span className="tabular-nums">{count} ×</span> {HOLD_WORDS[rule]}:{' '}
            {own.slice(0, 8).map((number, i) => (
              <span key={number}>
                {i > 0 && ', '}
                <Link href={`/cells/${number}`} className="underline">
                  {number}
                </Link>
              </span>
            ))}
            {own.length > 8 && ` and ${own.length - 8} more`}
          </li>
        ))}
      </ul>
      <Link href={`/lots/${code}/cells?show=held`} className="mt-2 inline-block text-ember">
        All of them in the cells table
      </Link>
    </section>
  );
}

/** Holds of one cell, each with what a lead may do; those that were lifted stay visible. */
export function HoldsOfCell({
  holds,
  channel,
  mayLead,
  moves,
}: {
  holds: HoldLine[];
  /** Why its channel waits; null when it does not. */
  channel: string | null;
  mayLead: boolean;
  moves: MoveLine[];
}) {
  if (holds.length === 0 && !channel && moves.length === 0) return null;
  const open = holds.filter(({ liftedAt }) => liftedAt === null);
  const lifted = holds.filter(({ liftedAt }) => liftedAt !== null);
  const placeOf = ({ runId }: HoldLine) => (runId === null ? 'typed capacity' : `run ${runId}`);
  return (
    <section
      aria-label="Held"
      className={`panel p-4 ${open.length > 0 || channel ? 'border-doubt' : ''}`}
    >
      {(open.length > 0 || channel) && (
        <h2 className="flex items-center gap-2 font-semibold text-doubt">
          <CirclePause size={18} aria-hidden />
          {channel || open.some(({ rule }) => rule !== 'byHand')
            ? 'Held until somebody has looked'
            : 'Set aside: it does not count'}
        </h2>
      )}
      <ul className="space-y-2">
        {open.map((hold) => (
          <li key={hold.id}>
            <p>
              <strong className="font-medium">{sentence(HOLD_WORDS[hold.rule])}</strong>,{' '}
              {hold.runId === null ? (
                placeOf(hold)
              ) : (
                <Link href={`/runs/${hold.runId}`} className="underline">
                  {placeOf(hold)}
                </Link>
              )}
              : {hold.text}
              {hold.person && (
                <>
                  {' '}
                  ({hold.person}, <LabDay at={hold.at} />)
                </>
              )}
            </p>
            {mayLead && hold.rule === 'swapped' && (
              <ReasonForm
                open="Exchange the two logs …"
                title="Give the two logs to each other’s cells"
                note="Both go with all their figures; both cells are judged anew, and both keep the history. Scan the cells first where they still stand at their places."
                label="How you know"
                does="Exchange them"
                act={(reason, _form, key) =>
                  exchangeRunsAct({ holdId: hold.id, version: hold.version, reason }, key)
                }
              />
            )}
            {mayLead ? (
              <ReasonForm
                open={hold.rule === 'byHand' ? 'Let it count again …' : 'Lift this hold …'}
                title={`Let ${placeOf(hold)} count`}
                note="Your reason stays visible beside the result for good."
                does="Lift the hold"
                act={(reason, _form, key) =>
                  liftHoldAct({ holdId: hold.id, version: hold.version, reason }, key)
                }
              />
            ) : (
              <p className="text-[0.82rem] text-quiet">A lead can lift it with a reason.</p>
            )}
          </li>
        ))}
        {channel && (
          <li>
            <strong className="font-medium">{sentence(HOLD_WORDS.channel)}</strong>: {channel}{' '}
            <Link href="/lab/channels" className="underline">
              Look at the channel
            </Link>
          </li>
        )}
      </ul>
      {lifted.length > 0 && (
        <>
          <h3 className="mt-3 font-medium">Lifted</h3>
          <ul className="space-y-1 text-quiet">
            {lifted.map((hold) => (
              <li key={hold.id}>
                {sentence(HOLD_WORDS[hold.rule])}, {placeOf(hold)}: {hold.text} Lifted by{' '}
                {hold.lifter} on <LabDay at={hold.liftedAt!} />: “{hold.liftReason}”
              </li>
            ))}
          </ul>
        </>
      )}
      {moves.length > 0 && (
        <>
          <h3 className="mt-3 font-medium">Given to another cell</h3>
          <ul className="space-y-1 text-quiet">
            {moves.map((move) => (
              <li key={move.id}>
                <Link href={`/runs/${move.runId}`} className="underline">
                  Run {move.runId}
                </Link>{' '}
                from {move.from} to {move.to} by {move.person} on <LabDay at={move.at} />: “
                {move.reason}”
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

const sentence = (text: string): string => text[0]!.toUpperCase() + text.slice(1);
