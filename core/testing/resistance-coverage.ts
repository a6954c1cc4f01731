import {
  type Accuracy,
  cutSections,
  leadOf,
  type LoadOnDelayS,
  loadOnResistance,
  mainDischarge,
  type Trace,
  twoStepResistance,
} from '../src/evidence';
import { seededRandom } from '../src/statistics';
import { bareTrace } from './trace-of';

/** How a load that comes on is logged. */
export interface ResistanceCase {
  intervalS: number;
  /** The current rises evenly over so long, s. */
  rampS: number;
  noiseV: number;
  leadMohm: number;
}

const one = (intervalS: number, rampS: number, noiseV: number, leadMohm: number) => ({
  intervalS,
  rampS,
  noiseV,
  leadMohm,
});

/** Rows, ramps, noise and leads in which ±2u has to hold the true resistance, or there is none. */
export const RESISTANCE_CASES: ResistanceCase[] = [
  one(0.1, 0, 0.002, 0),
  one(0.5, 0, 0.002, 0),
  one(1, 0, 0.002, 0),
  one(10, 0, 0.002, 0),
  one(0.1, 1, 0.002, 0),
  one(0.5, 1, 0.002, 0),
  one(1, 1, 0.002, 0),
  one(0.1, 3, 0.002, 0),
  one(0.5, 3, 0.002, 0),
  one(1, 3, 0.002, 0),
  one(0.5, 0, 0, 0),
  one(0.5, 0, 0.005, 0),
  one(0.1, 0, 0.002, 20),
  one(1, 1, 0.005, 20),
];

export const caseName = ({ intervalS, rampS, noiseV, leadMohm }: ResistanceCase): string =>
  `a row every ${intervalS} s, ramp ${rampS} s, noise ${noiseV * 1000} mV, leads ${leadMohm} mΩ`;

const ACCURACY: Accuracy = {
  currentGainPct: 0.5,
  currentOffsetA: 0.005,
  voltageGainPct: 0.05,
  voltageOffsetV: 0.003,
  timePpm: 100,
  source: 'stated',
};
const AMPS = 6;
const R0 = 0.008;
const PAIRS = [
  [0.004, 12],
  [0.009, 240],
] as const;
const GRID_S = 0.01;
const REST_S = 60;

/** Drop of the voltage at each hundredth of a second after load-on, V. */
function dropsOf(current: (s: number) => number, lastS: number): Float64Array {
  const drops = new Float64Array(Math.ceil(lastS / GRID_S) + 2);
  const pairs = PAIRS.map(() => 0);
  for (let k = 0; k < drops.length; k++) {
    const amps = current(k * GRID_S);
    drops[k] = amps * R0 + pairs.reduce((a, b) => a + b, 0);
    PAIRS.forEach(([ohm, tau], j) => {
      const decay = Math.exp(-GRID_S / tau);
      pairs[j] = pairs[j]! * decay + ohm * amps * (1 - decay);
    });
  }
  return drops;
}

const at = (drops: Float64Array, s: number): number => {
  const k = Math.max(0, s / GRID_S);
  const low = Math.floor(k);
  return drops[low]! + (k - low) * ((drops[low + 1] ?? drops[low]!) - drops[low]!);
};

function traceOf(
  rows: { t: number; v: number; i: number }[],
  { noiseV, leadOhm, random }: { noiseV: number; leadOhm: number; random: () => number },
): Trace {
  const gain = 1 + (ACCURACY.currentGainPct / 100 / Math.sqrt(3)) * random();
  const offset = (ACCURACY.currentOffsetA / Math.sqrt(3)) * random();
  const voltGain = 1 + (ACCURACY.voltageGainPct / 100 / Math.sqrt(3)) * random();
  const voltOffset = (ACCURACY.voltageOffsetV / Math.sqrt(3)) * random();
  const shown = (v: number, i: number) => (v - i * leadOhm) * voltGain + voltOffset;
  return bareTrace(
    {
      timeS: Float64Array.from(rows, ({ t }) => t),
      voltageV: Float64Array.from(
        rows,
        ({ v, i }) => Math.round(1000 * (shown(v, i) + noiseV * random())) / 1000,
      ),
      currentA: Float64Array.from(rows, ({ i }) =>
        i === 0 ? 0 : -Math.round(1000 * (i * gain + offset + 0.001 * random())) / 1000,
      ),
    },
    { timeS: 2, voltageV: 3 },
  );
}

/** What ±2u of a resistance holds over many draws. */
export interface ResistanceCoverage {
  coverage: number;
  /** Mean relative error of those given. */
  bias: number;
  /** Share of draws that gave no figure. */
  refused: number;
}

/** Measures one case over and over. @param onBeat the load comes on at a row, not between two. */
export function resistanceCoverage(
  one: ResistanceCase,
  delayS: LoadOnDelayS,
  draws: number,
  { seed = 1, onBeat = false } = {},
): ResistanceCoverage {
  const source = seededRandom(seed);
  const random = () => source.normal();
  const lastS = Math.max(130, 4 * delayS);
  const current = (s: number) => (one.rampS > 0 ? Math.min(1, s / one.rampS) : 1) * AMPS;
  const drops = dropsOf(current, lastS + 20);
  const truth = (at(drops, delayS) / AMPS) * 1000;
  let [inside, given, sum] = [0, 0, 0];
  for (let draw = 0; draw < draws; draw++) {
    const leadOhm = (one.leadMohm / 1000) * (1 + (0.1 / Math.sqrt(3)) * random());
    const share = onBeat ? Math.round(source.uniform()) * 0.999 : source.uniform();
    const loadOnS = REST_S + one.intervalS * share;
    const rows: { t: number; v: number; i: number }[] = [];
    for (let t = 0; t < loadOnS + lastS; t += one.intervalS) {
      const s = t - loadOnS;
      rows.push(s > 0 ? { t, v: 3.3 - at(drops, s), i: current(s) } : { t, v: 3.3, i: 0 });
    }
    const trace = traceOf(rows, { noiseV: one.noiseV, leadOhm, random });
    const { figure } = loadOnResistance(
      trace,
      mainDischarge(cutSections(trace)),
      delayS,
      ACCURACY,
      leadOf(one.leadMohm),
    );
    if (!figure) continue;
    given++;
    const error = figure.value - truth;
    sum += error / truth;
    if (Math.abs(error) <= 2 * figure.standardUncertainty!) inside++;
  }
  return { coverage: inside / given, bias: sum / given, refused: 1 - given / draws };
}

/** The two-step method of IEC 61960-3, over and over. */
export function twoStepCoverage(
  { intervalS, noiseV, leadMohm }: Omit<ResistanceCase, 'rampS'>,
  draws: number,
  seed = 1,
): ResistanceCoverage {
  const source = seededRandom(seed);
  const random = () => source.normal();
  const [low, high] = [1.2, 6];
  const drops = dropsOf((s) => (s < 10 ? low : high), 12);
  // The end of ten seconds is just before the step.
  const truth = ((at(drops, 11) - at(drops, 10 - GRID_S)) / (high - low)) * 1000;
  let [inside, given, sum] = [0, 0, 0];
  for (let draw = 0; draw < draws; draw++) {
    const leadOhm = (leadMohm / 1000) * (1 + (0.1 / Math.sqrt(3)) * random());
    const loadOnS = 30 + intervalS * source.uniform();
    const rows: { t: number; v: number; i: number }[] = [];
    for (let t = 0; t < loadOnS + 25; t += intervalS) {
      const s = t - loadOnS;
      const isOn = s > 0 && s <= 11;
      rows.push(isOn ? { t, v: 3.3 - at(drops, s), i: s < 10 ? low : high } : { t, v: 3.3, i: 0 });
    }
    const trace = traceOf(rows, { noiseV, leadOhm, random });
    const { figure } = twoStepResistance(trace, cutSections(trace), ACCURACY, leadOf(leadMohm));
    if (!figure) continue;
    given++;
    const error = figure.value - truth;
    sum += error / truth;
    if (Math.abs(error) <= 2 * figure.standardUncertainty!) inside++;
  }
  return { coverage: inside / given, bias: sum / given, refused: 1 - given / draws };
}
