import type { ClaimConditions } from '../arrivals';
import { type Correction, type RoomRange, unrecordedTemperature } from '../evidence';
import { type Estimate, rootSumOfSquares } from '../units';

/** Change of a resistance with temperature, as limits, share per K (handbook, chapter 3). */
const PER_K = { acResistance: 0.005, dcResistance: 0.015 } as const;
/** Where a claim says none, data sheets mean so much, °C. */
const USUAL_C = 25;
/** A DC resistance is carried no further, K. */
const MOST_KELVIN = 10;
/** Where the state of charge is not within these, or not known, so much is added, as a share. */
const CHARGE_PCT = [30, 80] as const;
const OFF_CHARGE = 0.03;

/** How a resistance was read. */
export interface ReadAt {
  /** °C; null or absent where nobody recorded it. */
  temperatureC?: number | null;
  /** Coldest and warmest the lab keeps its room, °C; null or absent where it keeps none. */
  roomC?: RoomRange | null;
  /** Of the cell, %; null or absent where it is not known. */
  stateOfChargePct?: number | null;
}

const percent = (share: number) => `${(100 * share).toFixed(1)} %`;

/**
 * A resistance under the conditions of its claim: nothing is corrected, what its temperature and state
 * of charge leave open is added (handbook, chapter 3, *Making results comparable*). Where neither claim
 * nor reading says anything of one of them nothing is added for it.
 */
export function underConditions(
  kind: 'acResistance' | 'dcResistance',
  measured: Estimate & ReadAt,
  claimed: Pick<ClaimConditions, 'temperatureC' | 'stateOfChargePct'>,
): { estimate: Estimate; corrections: Correction[]; differences: string[] } {
  const corrections: Correction[] = [];
  const differences: string[] = [];
  const read = measured.temperatureC ?? null;
  const to = claimed.temperatureC ?? (read === null ? null : USUAL_C);
  if (to !== null) {
    const unread = unrecordedTemperature(to, measured.roomC);
    const kelvin = read === null ? unread.kelvin : Math.abs(to - read);
    const relativeUncertainty = (PER_K[kind] * kelvin) / Math.sqrt(3);
    if (kind === 'dcResistance' && read !== null && kelvin > MOST_KELVIN)
      differences.push(
        `Measured at ${read.toFixed(1)} °C, for ${to} °C: a DC resistance is carried over at most ${MOST_KELVIN} K.`,
      );
    else if (relativeUncertainty > 5e-5)
      corrections.push({
        kind: 'temperature',
        factor: 1,
        relativeUncertainty,
        text:
          read === null
            ? `Claimed at ${to} °C, the temperature of the reading was not recorded: nothing is corrected, ${percent(relativeUncertainty)} is added (${unread.words}).`
            : `Read at ${read.toFixed(1)} °C, for ${to} °C: nothing is corrected, ${percent(relativeUncertainty)} is added.`,
      });
  }
  const charge = measured.stateOfChargePct ?? null;
  const isAsked = claimed.stateOfChargePct !== undefined || charge !== null;
  const isOff = charge === null || charge < CHARGE_PCT[0] || charge > CHARGE_PCT[1];
  if (isAsked && isOff)
    corrections.push({
      kind: 'stateOfCharge',
      factor: 1,
      relativeUncertainty: OFF_CHARGE,
      text: `${claimed.stateOfChargePct === undefined ? '' : `Claimed at ${claimed.stateOfChargePct} % of charge; `}${charge === null ? 'how full the cell was is not recorded' : `read at ${charge.toFixed(0)} %, outside ${CHARGE_PCT[0]} to ${CHARGE_PCT[1]} %`}: nothing is corrected, ${percent(OFF_CHARGE)} is added.`,
    });
  const { value, standardUncertainty, bound } = measured;
  return {
    estimate: {
      value,
      bound,
      standardUncertainty:
        standardUncertainty === null
          ? null
          : rootSumOfSquares([
              standardUncertainty,
              ...corrections.map(({ relativeUncertainty }) => relativeUncertainty * value),
            ]),
    },
    corrections,
    differences,
  };
}
