import { type Enough, enoughIsKnown } from '@dusk-tally/core/bench';
import { behindLeads, handLead, unknownTesterAccuracy } from '@dusk-tally/core/evidence';
import { budgetPart, combineBudget, dayIn } from '@dusk-tally/core/units';
import type { BenchLiveRow, BenchRunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { benchChannels } from '../bench';
import { metersThen, testerAccuracy } from '../evidence';
import { labTimeZone } from '../lots';
import { found, type Lab, question } from '../shared';
import { isLikeRate, readingBy } from './hand-log/view';

/** The tester a run is on, as it was described for its day: its accuracy and its leads. */
async function testerOf(lab: Lab, run: BenchRunRow) {
  const [channels, meters, timeZone] = await Promise.all([
    benchChannels(lab),
    metersThen(lab),
    labTimeZone(lab),
  ]);
  const channel = channels.find(({ id }) => id === run.channelId);
  const instrument = channel
    ? meters.instrument(channel.instrumentId, dayIn(timeZone, run.startedAt ?? run.createdAt))
    : null;
  const limits = channel && !channel.isAssumed ? channel.limits : null;
  return {
    accuracy: testerAccuracy(instrument) ?? unknownTesterAccuracy(run.expectedAh / 2),
    lead: handLead([], {
      wires: channel?.limits.wires ?? 2,
      leadMohm: limits ? limits.leadPlusMohm + limits.leadMinusMohm : 0,
    }),
  };
}

const ROOT_3 = Math.sqrt(3);

/** What is known of a driven discharge as far as it came. */
async function enoughOfDriven(lab: Lab, run: BenchRunRow, live: BenchLiveRow): Promise<Enough> {
  const amps = Math.abs(live.currentA ?? 0);
  const isFirst = run.program.findIndex(({ kind }) => kind === 'discharge') === live.step;
  if (!isFirst || live.voltageV === null || !(amps > 0)) return { kind: 'open' };
  const [{ claimedAh, claimedA, curves, guardFactor }, { accuracy, lead }] = await Promise.all([
    readingBy(lab, run.lotId, null),
    testerOf(lab, run),
  ]);
  if (claimedAh === null || !isLikeRate(amps, claimedA)) return { kind: 'open' };
  const hours = live.stepAh / amps;
  const { standardUncertainty } = combineBudget([
    budgetPart('currentGain', ((accuracy.currentGainPct / 100) * live.stepAh) / ROOT_3, ''),
    budgetPart('currentOffset', (accuracy.currentOffsetA * hours) / ROOT_3, ''),
  ]);
  const cell = behindLeads(live.voltageV, amps, lead, { accuracy, digitV: 0 });
  return enoughIsKnown(
    {
      charge: { value: live.stepAh, standardUncertainty, bound: 'exact' },
      voltageV: cell.v,
      voltageUncertaintyV: Math.hypot(cell.meterV, cell.leadV),
      currentA: amps,
      claimedAh,
      guardFactor,
    },
    curves,
  );
}

/**
 * Whether a discharge under way says enough already: its claim met, or out of reach by forecast
 * (handbook, chapter 2). Only for the first discharge of a run, at the claim’s rate.
 */
export const enoughOfRun = question({
  role: 'technician',
  input: z.object({ benchRunId: z.int() }),
  run: async (lab, { benchRunId }): Promise<Enough> => {
    const { bench } = lab.store;
    const run = found(await bench.runs.one({ id: benchRunId }), 'That run');
    const live = await bench.live.one({ benchRunId });
    return run.driven && run.state === 'running' && live
      ? enoughOfDriven(lab, run, live)
      : { kind: 'open' };
  },
});
