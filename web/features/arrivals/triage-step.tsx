'use client';

import { RECOVERY_CAUTION, TRIAGE_PROTOCOLS } from '@dusk-tally/core/arrivals';
import type { TriageLine, TriageView } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Empty, Problem } from '@/kit/page';
import { noteRecoveryAct, releaseCellAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { useReceiving } from './use-receiving';
import { Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Tick } from '@/kit/tick';
import { NumberInput } from '@/kit/quantity-field';

const OUTCOME = {
  test: { words: 'to test', tone: 'text-met' },
  waitsForLead: { words: 'waits for a lead', tone: 'text-doubt' },
  recovering: { words: 'in slow recovery', tone: 'text-curve' },
  discard: { words: 'to discard', tone: 'text-missed' },
};
const volts = (value: number | null) => (value === null ? '–' : `${value.toFixed(3)} V`);

/** Where cells go by their first voltage, by the school the lab chose. */
export function TriageStep({
  lotId,
  view,
  mayLead,
}: {
  lotId: number;
  view: TriageView;
  mayLead: boolean;
}) {
  const { enter, problem } = useReceiving(lotId);
  const protocol = TRIAGE_PROTOCOLS[view.school];
  return (
    <div className="space-y-4">
      <section className="panel grid gap-4 p-4 md:grid-cols-2">
        <div>
          <h2 className="font-semibold">
            {protocol.name}, version {protocol.version}
          </h2>
          <p className="mt-1">
            To test from {view.goV.toFixed(1)} V. Below: slow recovery to{' '}
            {view.recoverToV.toFixed(2)} V at no more than {(1000 * view.mostA).toFixed(0)} mA, once
            a lead releases it.
            {view.discardBelowV !== null && ` Below ${view.discardBelowV} V: discard.`}
          </p>
          <ul className="mt-1 list-disc pl-5 text-quiet">
            {protocol.rules.map((rule) => (
              <li key={rule}>{rule}</li>
            ))}
          </ul>
          <Label text="School" className="mt-3 block">
            <Choice
              className="max-w-64"
              disabled={!mayLead}
              value={view.school}
              onValue={(next) => enter([{ field: 'school', value: next }])}
            >
              <Option value="careful">careful (default)</Option>
              <Option value="recovery">recovery</Option>
            </Choice>
          </Label>
          {problem && <Problem>{problem}</Problem>}
        </div>
        <div>
          <h2 className="font-semibold">First voltages</h2>
          {view.spread ? (
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 tabular-nums">
              <dt className="text-quiet">Median</dt>
              <dd>
                {volts(view.spread.medianV)} of {view.spread.count}
              </dd>
              <dt className="text-quiet">Lowest, highest</dt>
              <dd>
                {volts(view.spread.lowestV)}, {volts(view.spread.highestV)}
              </dd>
              <dt className="text-quiet">Spread, robust</dt>
              <dd>{view.spread.spreadMv.toFixed(1)} mV</dd>
              <dt className="text-quiet">To test</dt>
              <dd>{view.toTest}</dd>
              <dt className="text-quiet">Not read</dt>
              <dd>{view.unread}</dd>
            </dl>
          ) : (
            <p className="text-quiet">None read yet.</p>
          )}
          <p className="mt-2 text-quiet">
            A cell 30 mV below the others has been losing charge; such cells are listed too.
          </p>
        </div>
      </section>
      {view.lines.length === 0 ? (
        <Empty title={view.spread ? 'Nothing to decide' : 'No first voltage yet'}>
          {view.spread
            ? 'Every cell read so far goes to test.'
            : 'Type them under First readings; what is low shows here.'}
        </Empty>
      ) : (
        <ul className="panel divide-y divide-rule" aria-label="Triage list">
          {view.lines.map((line) => (
            <TriageRow
              key={line.cellId}
              line={line}
              mayLead={mayLead}
              medianV={view.spread!.medianV}
            />
          ))}
        </ul>
      )}
    </div>
  );
}

/** Releasing a cell for slow recovery: the caution is read first. */
function Release({ line, close }: { line: TriageLine; close: () => void }) {
  const { run, busy, problem } = useAct();
  const [read, setRead] = useState(false);
  return (
    <>
      <div className="mt-2 rounded-sm border-2 border-doubt bg-wash p-3">
        <p>{RECOVERY_CAUTION}</p>
        <Tick checked={read} onChecked={(on) => setRead(on)} className="mt-2 min-h-10">
          I have read this, and somebody stays with {line.number} all the time.
        </Tick>
        <div className="mt-2 flex gap-2">
          <Button
            className="min-h-11"
            disabled={!read || busy}
            onClick={() =>
              run(
                (key) => releaseCellAct({ cellId: line.cellId, caution: RECOVERY_CAUTION }, key),
                close,
              )
            }
          >
            Release {line.number} for slow recovery
          </Button>
          <Button look="bare" className="min-h-11" onClick={close}>
            Not now
          </Button>
        </div>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </>
  );
}

/** Heat checks of a cell in slow recovery, and each way it ends. */
function Recovering({ cellId }: { cellId: number }) {
  const { run, busy, problem, setProblem } = useAct();
  const [minutes, setMinutes] = useState('');
  const [celsius, setCelsius] = useState('');
  const note = (act: 'heatCheck' | 'recovered' | 'noRise' | 'heat') => {
    const [m, t] = [typedNumber(minutes), typedNumber(celsius)];
    if (Number.isNaN(m) || Number.isNaN(t))
      return setProblem('Expected minutes and °C as numbers.');
    run(
      (key) => noteRecoveryAct({ cellId, act, minutes: m, temperatureC: t }, key),
      () => {
        setMinutes('');
        setCelsius('');
      },
    );
  };
  return (
    <>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Label text="After / min">
          <NumberInput
            quantity="durationMin"
            text={minutes}
            onText={(next) => setMinutes(next)}
            className="w-24"
          />
        </Label>
        <Label text="Surface / °C">
          <NumberInput
            quantity="temperatureC"
            text={celsius}
            onText={(next) => setCelsius(next)}
            className="w-24"
          />
        </Label>
        <Button disabled={busy} onClick={() => note('heatCheck')}>
          Keep the heat check
        </Button>
        <Button disabled={busy} onClick={() => note('recovered')}>
          Recovered
        </Button>
        <Button disabled={busy} onClick={() => note('noRise')}>
          No rise
        </Button>
        <Button disabled={busy} onClick={() => note('heat')}>
          It grew warm
        </Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </>
  );
}

const RECOVERY_ACTS = {
  released: 'released',
  heatCheck: 'heat check',
  recovered: 'recovered',
  noRise: 'no rise',
  heat: 'grew warm',
};

/** What was done in slow recovery, oldest first. */
function Recoveries({ line }: { line: TriageLine }) {
  if (line.recoveries.length === 0) return null;
  return (
    <ul className="mt-1 text-[0.85rem] text-quiet">
      {line.recoveries.map((entry) => (
        <li key={entry.id}>
          {RECOVERY_ACTS[entry.act]}
          {entry.minutes !== null && ` after ${entry.minutes} min`}
          {entry.temperatureC !== null && `, ${entry.temperatureC} °C`}
          {entry.mostA !== null && `, at most ${(1000 * entry.mostA).toFixed(0)} mA`};{' '}
          {entry.protocol} v{entry.protocolVersion}, {entry.person}
        </li>
      ))}
    </ul>
  );
}

function TriageRow({
  line,
  mayLead,
  medianV,
}: {
  line: TriageLine;
  mayLead: boolean;
  medianV: number;
}) {
  const { arrival } = line;
  const outcome = OUTCOME[arrival.triage ?? 'test'];
  const [releasing, setReleasing] = useState(false);
  const belowMv = 1000 * (medianV - (arrival.firstV ?? medianV));
  return (
    <li className="p-3" data-cell={line.number}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Link
          href={`/cells/${line.number}`}
          className="w-20 shrink-0 whitespace-nowrap font-medium hover:underline"
        >
          {line.number}
        </Link>
        <span className="w-20 text-right tabular-nums">{volts(arrival.firstV)}</span>
        <span className={`w-36 font-medium ${outcome.tone}`}>{outcome.words}</span>
        <span className="text-quiet">
          {arrival.triageReason}
          {arrival.triage === 'test' && belowMv > 30 && ` ${belowMv.toFixed(0)} mV below the lot.`}
        </span>
        {arrival.lowestV !== null && arrival.lowestV < 1 && (
          <span className="rounded-sm border border-missed px-1.5 text-missed">
            was below 1.0 V
          </span>
        )}
        {arrival.triage === 'waitsForLead' && mayLead && !releasing && (
          <Button className="ml-auto min-h-10" onClick={() => setReleasing(true)}>
            Release …
          </Button>
        )}
        {arrival.triage === 'waitsForLead' && !mayLead && (
          <span className="ml-auto text-quiet">A lead can release it.</span>
        )}
      </div>
      {releasing && arrival.triage === 'waitsForLead' && (
        <Release line={line} close={() => setReleasing(false)} />
      )}
      {arrival.triage === 'recovering' && <Recovering cellId={line.cellId} />}
      <Recoveries line={line} />
    </li>
  );
}
