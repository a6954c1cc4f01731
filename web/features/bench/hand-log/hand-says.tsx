'use client';

import { formatWithUncertainty } from '@dusk-tally/core/units';
import type { HandLogView, HandSays } from '@dusk-tally/lab/gathering';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useClock } from '@/kit/use-clock';
import { EnoughLine } from '../enough-line';
import { LoadOnForm } from './load-on-form';

const ah = (value: number) => `${value.toPrecision(4)} Ah`;

/** A charge with its expanded uncertainty, both to the digits that carries. */
function withDoubt(value: number, expanded: number | null): string {
  if (expanded === null) return ah(value);
  const shown = formatWithUncertainty(value, expanded);
  return `${shown.value} ± ${shown.uncertainty} Ah`;
}

/** What does not fit, with what can be done about it. */
function Doubts({ view, says }: { view: HandLogView; says: HandSays }) {
  const [subtracting, setSubtracting] = useState(false);
  return (
    <>
      {says.doubts.map(({ code, text, isDanger, subtractAh }) =>
        isDanger ? (
          <Problem key={code}>{text}</Problem>
        ) : (
          <p key={code} className="rounded-sm border-l-4 border-doubt bg-wash px-3 py-2">
            {text}{' '}
            {subtractAh !== undefined && (
              <Button look="bare" onClick={() => setSubtracting(true)}>
                Subtract it …
              </Button>
            )}
            {subtracting && subtractAh !== undefined && (
              <LoadOnForm
                view={view}
                countAtStartAh={Number(
                  (subtractAh + (view.log?.countAtStartAh ?? 0)).toPrecision(3),
                )}
                done={() => setSubtracting(false)}
              />
            )}
          </p>
        ),
      )}
    </>
  );
}

const BY: Record<NonNullable<HandSays['forecast']>['by'], (curves: number) => string> = {
  charge: (curves) => `by the charge ${curves} cells of the lot gave`,
  voltage: (curves) => `by its voltage on ${curves} curves of the lot`,
  expected: () => 'by what is expected of it, no other cell being tested',
};

/** When it ends and when to be there. */
function Ends({ view, says }: { view: HandLogView; says: HandSays }) {
  const clock = useClock();
  const { forecast } = says;
  if (!forecast || !view.log) return null;
  const now = new Date(view.now);
  const at = (seconds: number) =>
    clock(new Date(Date.parse(view.log!.loadOnAt) + seconds * 1000).toISOString(), now);
  return (
    <p>
      Ends between <b>{at(forecast.endS.low)}</b> and <b>{at(forecast.endS.high)}</b>,{' '}
      {BY[forecast.by](forecast.curves)}. Read it next at <b>{at(forecast.nextS)}</b>, and be there
      from <b>{at(forecast.beThereS)}</b>
      {forecast.fallsMvPerMin !== null &&
        `: it falls by about ${forecast.fallsMvPerMin.toFixed(0)} mV a minute there`}
      .
    </p>
  );
}

/** What the points of a hand log say: doubts, leads, the end, what is known already. */
export function HandSaysView({ view, says }: { view: HandLogView; says: HandSays }) {
  const { lead, soFar, advice, enough } = says;
  return (
    <div className="space-y-2" aria-live="polite">
      <Doubts view={view} says={says} />
      <EnoughLine enough={enough} />
      {advice && view.isOn && (
        <p className="rounded-sm border-l-4 border-ember bg-wash px-3 py-2">{advice}</p>
      )}
      {soFar.ah !== null && (
        <p className="text-lg">
          <b className="tabular-nums">
            {soFar.bound === 'atLeast' ? 'at least ' : ''}
            {withDoubt(soFar.ah, soFar.expandedAh)}
          </b>
          {soFar.fromAh !== soFar.toAh && (
            <span className="text-quiet">
              , read between {ah(soFar.fromAh!)} and {ah(soFar.toAh!)}
            </span>
          )}
          {view.claimedAh !== null && (
            <span className="text-quiet">, {ah(view.claimedAh)} claimed</span>
          )}
        </p>
      )}
      <Ends view={view} says={says} />
      <p className="text-quiet">
        {lead.from === 'points' &&
          `Leads take ${lead.mohm!.toFixed(1)} ± ${(2 * lead.standardUncertaintyMohm).toFixed(1)} mΩ, by display against terminals. `}
        {lead.from === 'channel' && `Leads of ${lead.mohm!.toFixed(1)} mΩ, as measured. `}
        {lead.from === 'unknown' &&
          'Nobody measured the leads: read the terminals beside the display once, and the cell’s own voltage is known. '}
        {soFar.steps.at(-1)}
      </p>
    </div>
  );
}
