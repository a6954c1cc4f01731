import { leadLoss, type LeadLoss } from '@dusk-tally/core/bench';
import { leadFromSpots, type LeadSpot } from '@dusk-tally/core/evidence';
import type { BenchRecordRow, SpotReadingRow } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../lots';
import { found, question } from '../shared';
import { benchChannels } from './bench-channels';
import { courseOfRun } from './run-progress';
import { openAlarms } from './open-alarms';
import { type LiveRun, liveRuns } from './live-runs';

/** Points of a run’s picture, most. */
const MOST_POINTS = 600;

/** Leads as spot readings of a run tell them. */
export interface SpotLeads {
  /** mΩ; null where the readings say none. */
  mohm: number | null;
  standardUncertaintyMohm: number | null;
  /** Why they say none. */
  reason: string | null;
  /** What they take at the current that flows; null where none flows. */
  loss: LeadLoss | null;
}

/** Currents below this tell nothing of leads, A. */
const LEAST_A = 0.05;

/** Leads from voltages read on the cell’s terminals beside what the instrument shows. */
function spotLeadsOf(
  spots: readonly Pick<SpotReadingRow, 'quantity' | 'value' | 'shownV' | 'shownA'>[],
  at: { nowA: number; wires: 2 | 4; cutoffV: number },
): SpotLeads | null {
  const read = spots.flatMap(({ quantity, value, shownV, shownA }): LeadSpot[] =>
    quantity !== 'voltage' || shownV === null || shownA === null || shownA > LEAST_A
      ? []
      : [{ testerV: shownV, cellV: value, currentA: shownA < -LEAST_A ? -shownA : 0 }],
  );
  if (!read.some(({ currentA }) => currentA > 0)) return null;
  const found = leadFromSpots(read);
  if (found.mohm === null)
    return { mohm: null, standardUncertaintyMohm: null, reason: found.reason, loss: null };
  const amps = Math.abs(at.nowA);
  return {
    mohm: found.mohm,
    standardUncertaintyMohm: found.standardUncertaintyMohm,
    reason: null,
    loss:
      amps > LEAST_A
        ? leadLoss(found.mohm, amps, { hours: 1, wires: at.wires, cutoffV: at.cutoffV })
        : null,
  };
}

export interface BenchRunView {
  run: LiveRun;
  points: {
    seq: number;
    timeS: number;
    voltageV: number;
    currentA: number;
    temperatureC: number | null;
    step: number;
  }[];
  events: { seq: number; timeS: number; event: NonNullable<BenchRecordRow['event']> }[];
  expected: { fromS: number; toS: number; kind: string }[];
  spots: { timeS: number; quantity: string; value: number; shownV: number | null; by: string }[];
  /** Resistance of leads that spot readings say, or why they say none; null without any. */
  spotLeads: SpotLeads | null;
  cutoffV: number;
}

/** One run with its curve, thinned, and what happened in it. */
export const benchRunView = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }): Promise<BenchRunView> => {
    const { bench, people } = lab.store;
    const row = found(await bench.runs.one({ id }), 'That run');
    const live = await bench.live.one({ benchRunId: id });
    const cutoffV = (await loadClaim(lab, row.lotId)).claim.cutoffV.value;
    const every = Math.max(1, Math.ceil((live?.lastSeq ?? 0) / MOST_POINTS));
    const [records, spots, persons, alarms, channels] = await Promise.all([
      bench.thinned(id, every),
      bench.spots.find({ benchRunId: id }, { order: [['id', 'ASC']] }),
      people.find({}, { columns: ['id', 'name'] }),
      openAlarms(lab, []),
      benchChannels(lab),
    ]);
    const names = new Map(persons.map((person) => [person.id, person.name]));
    const channel = channels.find(({ id: own }) => own === row.channelId);
    return {
      run: (await liveRuns(lab, [row], alarms, lab.now())).get(id)!,
      points: records.flatMap(({ seq, timeS, voltageV, currentA, temperatureC, step, event }) =>
        event === null
          ? [{ seq, timeS, voltageV: voltageV!, currentA: currentA!, temperatureC, step }]
          : [],
      ),
      events: records.flatMap(({ seq, timeS, event }) => (event ? [{ seq, timeS, event }] : [])),
      expected: courseOfRun(row).map(({ fromS, toS, kind }) => ({ fromS, toS, kind })),
      spots: spots.map(({ timeS, quantity, value, shownV, personId }) => ({
        timeS,
        quantity,
        value,
        shownV,
        by: names.get(personId) ?? '',
      })),
      spotLeads: spotLeadsOf(spots, {
        nowA: live?.currentA ?? 0,
        wires: channel?.limits.wires ?? 2,
        cutoffV,
      }),
      cutoffV,
    };
  },
});
