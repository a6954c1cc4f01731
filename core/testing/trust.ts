import { isKnown } from '../src/units';
import {
  carryToClaim,
  channelBeyond,
  channelCorrection,
  type ChannelEffect,
  type ConditionedResult,
  type CorrectionFactors,
  figuresOfLog,
  fitJointly,
  LogRefusal,
  readLog,
} from '../src/evidence';
import { holdsOf, judgeCarried } from '../src/verdicts';
import { type Fault, TRUST_ACCURACY, TRUST_CLAIM, type TrustLog, trustLot } from './trust-bench';

export type Outcome = 'met' | 'notMet' | 'tooClose' | 'held' | 'notComparable' | 'refused';

export interface TrustCount {
  cells: number;
  outcomes: Record<Outcome, number>;
  falseMet: number;
  falseNotMet: number;
}

const bare = (): TrustCount => ({
  cells: 0,
  outcomes: { met: 0, notMet: 0, tooClose: 0, held: 0, notComparable: 0, refused: 0 },
  falseMet: 0,
  falseNotMet: 0,
});

/** What one log gives, by the same functions the lab calls. */
function measure(log: TrustLog) {
  const read = readLog(log.bytes, { ratedAh: TRUST_CLAIM.ratedAh });
  const figures = figuresOfLog(read, {
    cutoffsV: [TRUST_CLAIM.cutoffV],
    accuracy: TRUST_ACCURACY,
    ratedAh: TRUST_CLAIM.ratedAh,
    leadMohm: log.leadMohm ?? undefined,
  });
  const [one] = figures.capacities ?? [];
  return one
    ? {
        ...one,
        figures,
        temperatureC: figures.temperature?.meanC ?? log.ambientC,
        sanity: figures.sanity,
      }
    : null;
}

const MODEL = {
  chemistry: 'LFP' as const,
  envelope: { shape: 'prism' as const, widthMm: 130, thicknessMm: 36, heightMm: 195 },
  massG: null,
  cutoffV: 2.5,
  chargeV: 3.65,
};

interface Known {
  effects: Map<string, ChannelEffect>;
  factors: CorrectionFactors | undefined;
}

/** What control cells say of the channels; results that are held, or only bounds, say nothing. */
function learn(controls: readonly TrustLog[]): Known {
  const results = controls.flatMap((log): ConditionedResult[] => {
    const found = measure(log);
    if (!found || found.capacity.bound !== 'exact') return [];
    return [
      {
        cell: log.cell,
        channel: log.channel,
        value: found.capacity.value,
        model: 'M',
        currentA: found.figures.meanCurrentA,
        temperatureC: found.temperatureC,
      },
    ];
  });
  const { channels, factors } = fitJointly(results);
  return {
    effects: new Map(channels.fit?.channels.map((effect) => [effect.channel, effect])),
    factors: factors.get('M'),
  };
}

/** Control cells of one seed are the same whatever is wrong with the runs. */
const learned = new Map<number, Known>();

function learnedOf(seed: number, controls: readonly TrustLog[]): Known {
  const known = learned.get(seed) ?? learn(controls);
  learned.set(seed, known);
  return known;
}

function judged(log: TrustLog, { effects, factors }: Known): Outcome {
  const found = measure(log);
  if (!found) return 'refused';
  const { capacity, energy, figures, sanity } = found;
  const effect = effects.get(log.channel);
  const holds = holdsOf({
    capacity,
    energyWh: energy.value,
    ratedAh: TRUST_CLAIM.ratedAh,
    model: MODEL,
    sanity,
    findings: figures.findings.map(({ code }) => code),
    clocksApart: null,
    like: null,
  });
  if (holds.length > 0 || (effect && channelBeyond(effect))) return 'held';
  const carried = carryToClaim(
    capacity,
    TRUST_CLAIM,
    {
      meanCurrentA: log.rateUnknown ? null : figures.meanCurrentA,
      ratedAh: TRUST_CLAIM.ratedAh,
      meanTemperatureC: found.temperatureC,
      restAfterChargeS: null,
      restBeforeS: figures.restBeforeS,
    },
    factors,
    effect ? channelCorrection(effect) : null,
    effect?.repeatability ? { relative: effect.repeatability, source: 'repeats' } : null,
  );
  if (!carried.comparable) return 'notComparable';
  const { estimate } = carried;
  if (!isKnown(estimate)) throw new Error('Expected a capacity with its uncertainty.');
  const limits = { low: TRUST_CLAIM.ratedAh, high: null };
  return judgeCarried(estimate, limits, { guardFactor: 1, corrections: carried.corrections })
    .verdict;
}

/** Counts by what was wrong with the run, and over all. */
export interface TrustTally {
  all: TrustCount;
  sound: TrustCount;
  byFault: Map<string, TrustCount>;
}

export const newTally = (): TrustTally => ({ all: bare(), sound: bare(), byFault: new Map() });

export function countInto(
  tally: TrustTally,
  fault: string,
  outcome: Outcome,
  trueAh: number,
): void {
  const own = tally.byFault.get(fault) ?? bare();
  tally.byFault.set(fault, own);
  for (const count of [tally.all, own, ...(fault === 'none' ? [tally.sound] : [])]) {
    count.cells++;
    count.outcomes[outcome]++;
    if (outcome === 'met' && trueAh < TRUST_CLAIM.ratedAh) count.falseMet++;
    if (outcome === 'notMet' && trueAh >= TRUST_CLAIM.ratedAh) count.falseNotMet++;
  }
}

/** Share of false verdicts among those that were decided. */
export function falseShares({ outcomes, falseMet, falseNotMet }: TrustCount): {
  met: number;
  notMet: number;
} {
  const decided = Math.max(1, outcomes.met + outcomes.notMet);
  return { met: falseMet / decided, notMet: falseNotMet / decided };
}

/** Simulated lots from file to verdict. @param perLot cells of each. @param only one fault in every run. */
export function trustOf(lots: number, perLot: number, seed = 1, only?: Fault): TrustTally {
  const tally = newTally();
  for (let lot = 0; lot < lots; lot++) {
    const { runs, controls } = trustLot(seed + lot, perLot, only);
    const known = learnedOf(seed + lot, controls);
    for (const run of runs) {
      let outcome: Outcome;
      try {
        outcome = judged(run, known);
      } catch (error) {
        if (!(error instanceof LogRefusal)) throw error;
        outcome = 'refused';
      }
      countInto(tally, run.fault, outcome, run.trueAh);
    }
  }
  return tally;
}
