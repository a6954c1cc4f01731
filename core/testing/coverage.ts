import {
  type Accuracy,
  capacityToCutoff,
  cutSections,
  findHoles,
  mainDischarge,
  type Trace,
} from '../src/evidence';
import { advance, restedState, terminalVoltage, typicalCell } from '../src/simulator';
import { seededRandom } from '../src/statistics';

/** How a discharge is measured over and over, each time with other errors of the meter. */
export interface CoverageCase {
  name: string;
  chemistry: 'LFP' | 'NMC' | 'sodium-ion';
  ratedAh: number;
  /** Constant current; a resistor instead where `resistorOhm` is set. */
  currentA: number;
  resistorOhm?: number;
  intervalS: number;
  cutoffV: number;
  leadMohm?: number;
  noiseV?: number;
  /** One counter and no current in the log. */
  countersOnly?: boolean;
  /** The tester ends the test at the first reading at or below the cut-off. */
  stops?: boolean;
}

const LFP104 = { chemistry: 'LFP', ratedAh: 104, cutoffV: 2.5 } as const;
const LFP6 = { chemistry: 'LFP', ratedAh: 6, cutoffV: 2.5 } as const;
const NMC20 = { chemistry: 'NMC', ratedAh: 20 } as const;

/** Cases in which ±2u has to hold what is true in 93 to 99.9 % of draws. */
export const COVERAGE_CASES: CoverageCase[] = [
  { ...LFP104, name: '104 Ah at 0.2 It, a row every 10 s', currentA: 20.8, intervalS: 10 },
  {
    ...NMC20,
    name: 'a resistor, a row every 10 s',
    cutoffV: 3,
    currentA: 4,
    resistorOhm: 0.9,
    intervalS: 10,
  },
  {
    ...NMC20,
    name: 'a resistor, a row every 30 s',
    cutoffV: 3,
    currentA: 4,
    resistorOhm: 0.9,
    intervalS: 30,
  },
  { ...LFP104, name: 'leads of 4 mΩ', currentA: 20.8, intervalS: 10, leadMohm: 4 },
  { ...LFP6, name: 'leads of 20 mΩ', currentA: 1.2, intervalS: 10, leadMohm: 20 },
  { ...LFP104, name: 'counters only', currentA: 20.8, intervalS: 60, countersOnly: true },
  { ...LFP104, name: '1 It, a row every 30 s', currentA: 104, intervalS: 30 },
  { ...LFP104, name: '1 It, a row every 60 s', currentA: 104, intervalS: 60 },
  { ...LFP104, name: '0.2 It, a row every 60 s', currentA: 20.8, intervalS: 60 },
  {
    ...LFP104,
    name: '2 mV of noise on a plateau',
    currentA: 20.8,
    intervalS: 10,
    cutoffV: 3.22,
    noiseV: 0.002,
  },
  {
    ...NMC20,
    name: '5 mV of noise on a slope',
    currentA: 4,
    intervalS: 10,
    cutoffV: 3.6,
    noiseV: 0.005,
  },
  {
    ...NMC20,
    name: '5 mV of noise on a slope, stopped at the first low reading',
    currentA: 4,
    intervalS: 10,
    cutoffV: 3.2,
    noiseV: 0.005,
    stops: true,
  },
];

/** What the tester of every case may be off by, as limits. */
const ACCURACY: Accuracy = {
  currentGainPct: 0.2,
  currentOffsetA: 0.002,
  voltageGainPct: 0.02,
  voltageOffsetV: 0.002,
  timePpm: 100,
  source: 'stated',
};
const REST_S = 600;

/** A cell’s true voltage and current at every second under load, to well below the cut-off. */
function trueCourse({ chemistry, ratedAh, currentA, resistorOhm, cutoffV }: CoverageCase) {
  const cell = typicalCell(chemistry, ratedAh);
  let state = restedState(1, 23);
  const volts: number[] = [];
  const amps: number[] = [];
  let amp = currentA;
  for (let second = 0; second < 90_000; second++) {
    for (let i = 0; resistorOhm && i < 5; i++)
      amp = terminalVoltage(cell, state, -amp) / resistorOhm;
    const v = terminalVoltage(cell, state, -amp);
    volts.push(v);
    amps.push(amp);
    if (v < Math.min(cutoffV - 0.25, 1)) break;
    state = advance(cell, state, { currentA: -amp, durationS: 1, ambientC: 23 });
  }
  const ah = new Float64Array(volts.length);
  for (let i = 1; i < ah.length; i++) ah[i] = ah[i - 1]! + (amps[i]! + amps[i - 1]!) / 7200;
  let end = 1;
  while (volts[end]! > cutoffV) end++;
  const share = (volts[end - 1]! - cutoffV) / (volts[end - 1]! - volts[end]!);
  const truth = ah[end - 1]! + share * (ah[end]! - ah[end - 1]!);
  return { volts, amps, ah, truth };
}

const at = (values: ArrayLike<number>, second: number): number => {
  const low = Math.floor(second);
  const share = second - low;
  return values[low]! * (1 - share) + (values[low + 1] ?? values[low]!) * share;
};

/** Measures one case over and over. */
export function coverageOf(one: CoverageCase, draws: number, seed = 1) {
  const course = trueCourse(one);
  const random = seededRandom(seed);
  const noiseV = one.noiseV ?? 0.0004;
  /** An error of a meter whose standard uncertainty is that of limits ± half. */
  const off = (half: number) => (half / Math.sqrt(3)) * random.normal();
  let [inside, sum, squares, open] = [0, 0, 0, 0];
  for (let draw = 0; draw < draws; draw++) {
    const [gain, offset] = [1 + off(ACCURACY.currentGainPct / 100), off(ACCURACY.currentOffsetA)];
    const voltOff = off((ACCURACY.voltageGainPct / 100) * one.cutoffV + ACCURACY.voltageOffsetV);
    const clock = 1 + off(ACCURACY.timePpm * 1e-6);
    const leadOhm = (one.leadMohm ?? 0) / 1000 + off(((one.leadMohm ?? 0) / 1000) * 0.1);
    const loadOnS = REST_S + one.intervalS * random.uniform();
    const time: number[] = [];
    const volt: number[] = [];
    const amp: number[] = [];
    const counter: number[] = [];
    for (let t = 0; ; t += one.intervalS) {
      const second = t - loadOnS;
      const isOn = second >= 0;
      if (isOn && second >= course.volts.length - 1) break;
      const trueA = isOn ? at(course.amps, second) : 0;
      const seen =
        (isOn ? at(course.volts, second) : course.volts[0]! + 0.05) -
        trueA * leadOhm +
        voltOff +
        noiseV * random.normal();
      time.push(t * clock);
      volt.push(Math.round(seen * 1000) / 1000);
      const shown = isOn ? trueA * gain + offset + 0.001 * random.normal() : 0;
      amp.push(-Math.round(shown * 1000) / 1000);
      const counted = isOn ? at(course.ah, second) * gain + (offset * second) / 3600 : 0;
      counter.push(Math.floor(counted * 100) / 100);
      const cellV = volt[volt.length - 1]! + (trueA * (one.leadMohm ?? 0)) / 1000;
      if (one.stops && isOn && cellV <= one.cutoffV) break;
    }
    const timeS = Float64Array.from(time);
    const trace: Trace = {
      timeS,
      voltageV: Float64Array.from(volt),
      currentA: one.countersOnly ? null : Float64Array.from(amp),
      temperatureC: null,
      counterAh: one.countersOnly ? Float64Array.from(counter) : null,
      counterWh: null,
      cellVoltagesV: [],
      mode: null,
      step: null,
      holes: findHoles(timeS),
      decimals: { timeS: 0, voltageV: 3, currentA: 3, temperatureC: 0 },
      startedAtMs: null,
    };
    const { capacity } = capacityToCutoff(trace, mainDischarge(cutSections(trace))!, {
      cutoffV: one.cutoffV,
      accuracy: ACCURACY,
      leadMohm: one.leadMohm,
    });
    const error = capacity.value - course.truth;
    if (capacity.bound !== 'exact') {
      open++;
      continue;
    }
    if (Math.abs(error) <= 2 * capacity.standardUncertainty!) inside++;
    sum += error / course.truth;
    squares += (error / capacity.standardUncertainty!) ** 2;
  }
  const counted = draws - open;
  return {
    name: one.name,
    truth: course.truth,
    coverage: inside / counted,
    /** Mean relative error, and errors in standard uncertainties (root mean square). */
    bias: sum / counted,
    normalised: Math.sqrt(squares / counted),
    open: open / draws,
  };
}
