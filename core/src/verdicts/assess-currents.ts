import type { SustainedCurrent } from '../evidence';
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
 * @param capacityAh the counting capacity, for charge acceptance; null where none is known.
 */
export function assessCurrents(
  kind: 'maxCharge' | 'maxDischarge',
  evidence: Pick<CellEvidence, 'currents' | 'heatAlarm' | 'capacities'>,
  claimed: ClaimedItem,
  capacityAh: number | null,
): Assessed {
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
    ? chargeAcceptance(own, evidence.heatAlarm, capacityAh)
    : discharged(own, claimed, capacityAh);
}

function chargeAcceptance(
  own: readonly SustainedCurrent[],
  heatAlarm: string | null,
  capacityAh: number | null,
): Assessed {
  const best = own.reduce((a, b) => (b.ah > a.ah ? b : a));
  const warm =
    best.maxTemperatureC === null ? [] : [`It reached ${best.maxTemperatureC.toFixed(1)} °C.`];
  const common = { estimate: at(best), differences: warm };
  if (heatAlarm)
    return { ...common, ...sure(false), differences: [`It grew hot on the bench: ${heatAlarm}.`] };
  if (capacityAh === null) return { ...common, state: 'waitingFor', what: ['a capacity test'] };
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

function discharged(
  own: readonly SustainedCurrent[],
  { conditions }: ClaimedItem,
  capacityAh: number | null,
): Assessed {
  const { pulseS, cutoffV } = conditions;
  const isLong = ({ durationS, lowestV, ah }: SustainedCurrent) =>
    pulseS
      ? durationS >= CLOSE_ENOUGH * pulseS
      : cutoffV !== undefined && lowestV <= cutoffV && ah >= LEAST_DOWN * (capacityAh ?? 0);
  const fell = (current: SustainedCurrent) =>
    Boolean(pulseS) &&
    cutoffV !== undefined &&
    current.lowestV < cutoffV &&
    current.durationS < CLOSE_ENOUGH * pulseS!;
  const broken = own.find(fell);
  const long = own.find(isLong);
  if (!long && broken)
    return {
      estimate: at(broken),
      differences: [
        `Its voltage was at ${broken.lowestV.toFixed(3)} V after ${broken.durationS.toFixed(0)} s, below the cut-off of ${cutoffV} V.`,
      ],
      ...sure(false),
    };
  if (!long) {
    const longest = own.reduce((a, b) => (b.durationS > a.durationS ? b : a));
    return {
      estimate: at(longest),
      differences: [],
      state: 'waitingFor',
      what: [pulseS ? `a load of ${pulseS} s` : 'a run at this current down to the cut-off'],
    };
  }
  const common = { estimate: at(long), differences: [] as string[] };
  const { maxTemperatureC } = long;
  if (maxTemperatureC === null)
    return { ...common, state: 'waitingFor', what: ['the temperature under this load'] };
  return {
    ...common,
    ...sure(maxTemperatureC < WARMEST_C),
    differences: [`It reached ${maxTemperatureC.toFixed(1)} °C; below ${WARMEST_C} °C is asked.`],
  };
}
