import type { ShownBy, SustainedCurrent } from '../evidence';
import type { Estimate } from '../units';
import type { AssessedItem, CellEvidence, ClaimedItem, ItemState } from './assessed-item';

/** A current this close below the claimed one counts as it, as a share. */
const CLOSE_ENOUGH = 0.98;
/** Charge at constant current a cell must take, as a share of its capacity (slow charge acceptance). */
const LEAST_AT_CONSTANT = 0.8;
/** A charge that moved this share of the capacity began with an empty cell. */
const FROM_EMPTY = 0.95;
/** A stretch that gave less of the capacity was a blow at a nearly empty cell, not a run down. */
const LEAST_DOWN = 0.5;
/** Warmest a cell may grow under its highest discharge current, °C. */
const WARMEST_C = 60;
/** A certainty, said as one: an observation is no figure with a doubt. */
const sure = (isMet: boolean): ItemState => ({
  state: isMet ? 'met' : 'notMet',
  probability: isMet ? 1 : 0,
});

type Assessed = Pick<AssessedItem, 'estimate' | 'differences'> & ItemState;

const amps = (value: number) => `${Number(value.toPrecision(3))} A`;

/** The current itself, as exact as it was set: what it was judged at. */
const at = (current: SustainedCurrent): AssessedItem['estimate'] => ({
  value: current.currentA,
  standardUncertainty: null,
  bound: 'exact',
});

/**
 * Highest charge and discharge current (handbook, chapter 5): judged only by a run that kept it.
 * @param capacity the counting capacity, for charge acceptance; null where none is known. One that is
 *   only a bound is no value to take a share of.
 */
export function assessCurrents(
  kind: 'maxCharge' | 'maxDischarge',
  evidence: Pick<CellEvidence, 'currents' | 'heatAlarm' | 'capacities'>,
  claimed: ClaimedItem,
  capacity: Estimate | null,
): Assessed {
  const capacityAh = capacity?.bound === 'exact' ? capacity.value : null;
  const wantedA = CLOSE_ENOUGH * claimed.value!;
  const own = evidence.currents.filter(
    (current) =>
      current.kind === (kind === 'maxCharge' ? 'charge' : 'discharge') &&
      current.currentA >= wantedA,
  );
  if (own.length === 0)
    return {
      estimate: null,
      differences: [],
      state: 'waitingFor',
      what: [
        kind === 'maxCharge'
          ? `a charge at ${amps(claimed.value!)}`
          : `a load test at ${amps(claimed.value!)}${claimed.conditions.pulseS ? ` for ${claimed.conditions.pulseS} s` : ' down to the cut-off'}`,
      ],
    };
  return kind === 'maxCharge'
    ? chargeAcceptance(own, evidence.heatAlarm, capacityAh, capacity !== null)
    : discharged(own, claimed, capacityAh);
}

function chargeAcceptance(
  own: readonly SustainedCurrent[],
  heatAlarm: string | null,
  capacityAh: number | null,
  isBound: boolean,
): Assessed {
  const best = own.reduce((a, b) => (b.ah > a.ah ? b : a));
  const warm =
    best.maxTemperatureC === null ? [] : [`It reached ${best.maxTemperatureC.toFixed(1)} °C.`];
  const common = { estimate: at(best), differences: warm };
  if (heatAlarm)
    return { ...common, ...sure(false), differences: [`It grew hot on the bench: ${heatAlarm}.`] };
  if (capacityAh === null)
    return {
      ...common,
      state: 'waitingFor',
      what: [isBound ? 'a capacity that is known, not only a bound' : 'a capacity test'],
    };
  const share = best.ah / capacityAh;
  // A short charge of a cell that was not empty, or broken off, shows nothing against it.
  if (share < LEAST_AT_CONSTANT && best.sectionAh < FROM_EMPTY * capacityAh)
    return { ...common, state: 'waitingFor', what: ['a charge at this current from empty'] };
  return {
    ...common,
    ...sure(share >= LEAST_AT_CONSTANT),
    differences: [
      `It took ${(100 * share).toFixed(0)} % of its capacity at constant current; ${100 * LEAST_AT_CONSTANT} % is asked.`,
      ...warm,
    ],
  };
}

/** A stretch at the claimed current against its cut-off and its temperature. */
function judgedBy(
  current: SustainedCurrent,
  { lowestV, maxC }: Pick<ShownBy, 'lowestV' | 'maxC'>,
): Assessed {
  const common = { estimate: at(current), differences: [] as string[] };
  if (maxC === null)
    return { ...common, state: 'waitingFor', what: ['the temperature under this load'] };
  return {
    ...common,
    ...sure(maxC < WARMEST_C),
    differences: [
      `Its lowest voltage was ${lowestV.toFixed(3)} V; it reached ${maxC.toFixed(1)} °C, below ${WARMEST_C} °C is asked.`,
    ],
  };
}

/** All a stretch is known to have shown by a reading, its end among it. */
const shownOf = ({ by = [], durationS, lowestV, maxTemperatureC }: SustainedCurrent): ShownBy[] => [
  ...by.filter(({ afterS }) => afterS < durationS),
  { afterS: durationS, lowestV, maxC: maxTemperatureC },
];

/**
 * A current claimed for some seconds: what came later in a longer run neither speaks for it nor against it.
 * Where no reading falls near the end of that time it is open.
 */
function pulsed(own: readonly SustainedCurrent[], pulseS: number, cutoffV: number): Assessed {
  const stood = own.flatMap((current) => {
    const after = shownOf(current).find(({ afterS }) => afterS >= CLOSE_ENOUGH * pulseS);
    const holds =
      after && after.lowestV >= cutoffV && (after.maxC === null || after.maxC < WARMEST_C);
    return holds ? [judgedBy(current, after)] : [];
  });
  const met = stood.find(({ state }) => state === 'met') ?? stood[0];
  if (met) return met;
  for (const current of own) {
    const within = shownOf(current).filter(({ afterS }) => afterS <= pulseS / CLOSE_ENOUGH);
    const fallen = within.find(({ lowestV }) => lowestV < cutoffV);
    if (fallen)
      return {
        estimate: at(current),
        differences: [
          `Its voltage was at ${fallen.lowestV.toFixed(3)} V after ${fallen.afterS.toFixed(0)} s, below the cut-off of ${cutoffV} V.`,
        ],
        ...sure(false),
      };
    const hot = within.find(({ maxC }) => maxC !== null && maxC >= WARMEST_C);
    if (hot) return judgedBy(current, hot);
  }
  const longest = own.reduce((a, b) => (b.durationS > a.durationS ? b : a));
  return {
    estimate: at(longest),
    differences: [],
    state: 'waitingFor',
    what: [`a load of ${pulseS} s, read at its end`],
  };
}

function discharged(
  own: readonly SustainedCurrent[],
  { conditions: { pulseS, cutoffV } }: ClaimedItem,
  capacityAh: number | null,
): Assessed {
  if (pulseS) return pulsed(own, pulseS, cutoffV ?? -Infinity);
  const down = own.find(
    ({ lowestV, ah }) =>
      cutoffV !== undefined && lowestV <= cutoffV && ah >= LEAST_DOWN * (capacityAh ?? 0),
  );
  if (down) return judgedBy(down, { lowestV: down.lowestV, maxC: down.maxTemperatureC });
  const longest = own.reduce((a, b) => (b.durationS > a.durationS ? b : a));
  return {
    estimate: at(longest),
    differences: [],
    state: 'waitingFor',
    what: ['a run at this current down to the cut-off'],
  };
}
