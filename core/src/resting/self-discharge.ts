import { combineFew } from '../statistics';
import { budgetPart, combineBudget, type Figure, type Finding, formatNumber } from '../units';
import {
  lineThrough,
  relaxed,
  RELAXING_DAYS,
  type RestReading,
  slopeByMeter,
  spreadOf,
} from './rest-line';

export type { RestReading } from './rest-line';

/** The loss in the first day is relaxation (handbook, chapter 4). */
export const FIRST_COUNTED_DAY = 1;
/** Readings further apart in temperature are compared only with a warning, K. */
const MOST_KELVIN = 8;
/** How far an open-circuit voltage follows temperature, V/K. */
const VOLT_PER_KELVIN = 0.0003;
const METHOD = { name: 'self-discharge-slope', version: 2 };

/** Readings that count, in order of time: taken a day or more after the charge. */
export const countedReadings = (readings: readonly RestReading[]): RestReading[] =>
  readings.filter(({ days }) => days >= FIRST_COUNTED_DAY).toSorted((a, b) => a.days - b.days);

/** What is odd about readings that are compared. */
function findingsOf(readings: readonly RestReading[], slope: number, u: number): Finding[] {
  const temperatures = readings.flatMap(({ temperatureC }) => temperatureC ?? []);
  const kelvin = spreadOf(temperatures);
  return [
    ...(kelvin > MOST_KELVIN
      ? [
          {
            code: 'rest-temperatures-apart',
            text: `The readings were taken ${formatNumber(kelvin, 1)} K apart; more than ${MOST_KELVIN} K is compared only with doubt.`,
            severity: 'warning' as const,
          },
        ]
      : []),
    ...(temperatures.length < readings.length
      ? [
          {
            code: 'rest-temperature-unknown',
            text: 'The temperature was not read with every voltage: what it did to them is not in the uncertainty.',
            severity: 'note' as const,
          },
        ]
      : []),
    ...(slope > 2 * u
      ? [
          {
            code: 'rest-voltage-rose',
            text: 'The voltage rose while the cell stood: it was charged, or a reading is of another cell.',
            severity: 'warning' as const,
          },
        ]
      : []),
  ];
}

/**
 * Slope of a cell’s open-circuit voltage while it stands, mV a day, by least squares over readings at a
 * day or more after the charge (handbook, chapter 4). Its uncertainty is that of the readings’ scatter
 * where there are three or more, with Student’s factor, never below what the meter leaves open; the
 * offset of one and the same meter cancels; 0.3 mV/K over √3 is added for unequal temperatures, and what
 * relaxation still going on at the first reading may do.
 * @returns null with fewer than two readings that count, or all at one time.
 */
export function selfDischargeSlope(readings: readonly RestReading[]): Figure | null {
  const counted = countedReadings(readings);
  if (counted.length < 2 || spreadOf(counted.map(({ days }) => days)) <= 0) return null;
  const { used, openV, leftOut } = relaxed(counted);
  const spanDays = spreadOf(used.map(({ days }) => days));
  const { slope, sxx, scatterV } = lineThrough(used);
  const mv = (voltsADay: number) => 1000 * voltsADay;
  const { u: byMeter, limitV } = slopeByMeter(used, sxx);
  const byScatter = scatterV === null ? 0 : scatterV / Math.sqrt(sxx);
  const kelvin = spreadOf(used.flatMap(({ temperatureC }) => temperatureC ?? []));
  const { standardUncertainty, budget } = combineFew([
    byScatter > byMeter
      ? {
          ...budgetPart(
            'restScatter',
            mv(byScatter),
            `${formatNumber(mv(scatterV!), 2)} mV about the line`,
          ),
          degrees: used.length - 2,
        }
      : budgetPart(
          'restReading',
          mv(byMeter),
          `each reading within ± ${formatNumber(mv(limitV), 2)} mV`,
        ),
    ...(kelvin > 0
      ? [
          budgetPart(
            'restTemperature',
            mv((VOLT_PER_KELVIN * kelvin) / Math.sqrt(3)) / spanDays,
            `0.3 mV/K over ${formatNumber(kelvin, 1)} K and ${formatNumber(spanDays, 1)} days`,
          ),
        ]
      : []),
    ...(openV > 0
      ? [
          budgetPart(
            'relaxation',
            mv(openV) / Math.sqrt(3),
            `the first reading was taken less than ${RELAXING_DAYS} days after the charge: relaxation may be worth up to ${formatNumber(mv(openV), 2)} mV a day of it, rectangular`,
          ),
        ]
      : []),
  ]);
  const value = mv(slope);
  return {
    quantity: 'selfDischargeSlope',
    unit: 'mV/d',
    value,
    standardUncertainty,
    bound: 'exact',
    method: METHOD,
    inputs: used.map(({ days, voltageV }) => ({
      name: `voltage after ${formatNumber(days, 2)} days`,
      value: voltageV,
      unit: 'V' as const,
    })),
    steps: [
      `${counted.length} of ${readings.length} readings were taken ${FIRST_COUNTED_DAY} day or more after the charge and count.`,
      ...(leftOut > 0
        ? [
            `The first ${leftOut === 1 ? 'one lies' : `${leftOut} lie`} above the line of the later ones: the cell was still relaxing, so ${leftOut === 1 ? 'it is' : 'they are'} left out.`,
          ]
        : []),
      used.length > 2
        ? `Straight line by least squares over ${formatNumber(spanDays, 1)} days: ${value.toPrecision(4)} mV a day.`
        : `Difference over ${formatNumber(spanDays, 1)} days: ${value.toPrecision(4)} mV a day.`,
    ],
    findings: findingsOf(used, slope, standardUncertainty / 1000),
    budget,
  };
}

/** A cell’s voltage against its charge where it stands: dSoC/dV in 1/V, with its uncertainty. */
export interface ChargeSlope {
  perVolt: number;
  standardUncertainty: number;
}

/** A figure carried from a slope, or why it is refused. */
export type CarriedLoss = { figure: Figure; refused: null } | { figure: null; refused: string };

/** Days of the month a loss is told for. */
const MONTH_DAYS = 30;
const HOURS_A_DAY = 24;

/** A figure that is a product of the slope and dSoC/dV; refused where the curve is too flat to tell. */
function carried(
  slope: Figure,
  curve: ChargeSlope,
  into: Pick<Figure, 'quantity' | 'unit' | 'method'> & { factor: number; step: string },
): CarriedLoss {
  const perMv = (curve.perVolt / 1000) * into.factor;
  const value = slope.value * perMv;
  const byCurve =
    Math.abs(slope.value) * (curve.standardUncertainty / 1000) * Math.abs(into.factor);
  const { standardUncertainty, budget } = combineBudget([
    ...slope.budget.map((part) => ({
      ...part,
      standardUncertainty: part.standardUncertainty * Math.abs(perMv),
    })),
    budgetPart(
      'chargeCurve',
      byCurve,
      `dSoC/dV = ${curve.perVolt.toPrecision(3)} ± ${(2 * curve.standardUncertainty).toPrecision(2)} per V`,
    ),
  ]);
  if (standardUncertainty > Math.abs(value) / 2)
    return {
      figure: null,
      refused: `The model’s curve is too flat here, or the loss too small: ${value.toPrecision(2)} ${into.unit} with a standard uncertainty of ${standardUncertainty.toPrecision(2)}.`,
    };
  const { quantity, unit, method, step } = into;
  return {
    figure: {
      ...slope,
      quantity,
      unit,
      method,
      value,
      standardUncertainty,
      inputs: [
        { name: 'slope of the voltage', value: slope.value, unit: slope.unit },
        { name: 'dSoC/dV, 1/V', value: curve.perVolt },
      ],
      steps: [...slope.steps, step],
      budget,
    },
    refused: null,
  };
}

/**
 * Loss of charge while a cell stands, % of its charge in 30 days, from the slope of its voltage and its
 * model’s slow discharge curve (handbook, chapter 4).
 * @returns a refusal where the curve is too flat: the standard uncertainty is above half the value.
 */
export const monthlyLoss = (slope: Figure, curve: ChargeSlope): CarriedLoss =>
  carried(slope, curve, {
    quantity: 'selfDischargeMonth',
    unit: '%',
    method: { name: 'self-discharge-per-month', version: 1 },
    factor: -100 * MONTH_DAYS,
    step: `Times ${MONTH_DAYS} days and dSoC/dV of the model’s slow discharge.`,
  });

/**
 * Leakage current I = Q·dSoC/dt, µA, of a cell of a capacity in Ah (handbook, chapter 4).
 * @returns a refusal where the curve is too flat, as for the loss in a month.
 */
export const leakageCurrent = (
  slope: Figure,
  curve: ChargeSlope,
  capacityAh: number,
): CarriedLoss =>
  carried(slope, curve, {
    quantity: 'leakageCurrent',
    unit: 'µA',
    method: { name: 'leakage-current', version: 1 },
    factor: (-1e6 * capacityAh) / HOURS_A_DAY,
    step: `Times ${capacityAh.toPrecision(4)} Ah and dSoC/dV, over 24 h.`,
  });
