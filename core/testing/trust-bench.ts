import { advance, restedState, terminalVoltage, typicalCell } from '../src/simulator';
import { seededRandom } from '../src/statistics';
import { type BaseCurve, type Fault, FAULTS, writeLog } from './trust-log';

export { type Fault, FAULTS, TRUST_ACCURACY, TRUST_CLAIM } from './trust-log';

/** One log as a tester would have written it, and what the lab says of it. */
export interface TrustLog {
  cell: string;
  channel: string;
  bytes: Uint8Array;
  /** What is entered of the leads; null for four wires. */
  leadMohm: number | null;
  /** Null where nobody recorded it. */
  ambientC: number | null;
  /** AC resistance read off the cell it is filed under, mΩ. */
  acMohm?: number;
  /** Typed off the tester without its current. */
  rateUnknown?: boolean;
}

export interface TrustRun extends TrustLog {
  fault: Fault;
  /** True capacity of the cell the result is filed under, at the claim’s conditions, Ah. */
  trueAh: number;
}

/** A lot of one model with its bench: runs of its cells, and control cells on every channel. */
export interface TrustLot {
  runs: TrustRun[];
  controls: TrustLog[];
}

/** The voltage of a 100 Ah cell at 20 A against charge, down to where nothing is left. */
function baseCurve(): BaseCurve {
  const cell = typicalCell('LFP', 100);
  let state = restedState(1, 25);
  const volts: number[] = [];
  for (let s = 0; s < 30_000; s++) {
    const v = terminalVoltage(cell, state, -20);
    volts.push(v);
    if (v < 1) break;
    state = advance(cell, state, { currentA: -20, durationS: 1, ambientC: 25 });
  }
  return {
    volts: Float64Array.from(volts),
    ah: Float64Array.from(volts, (_, s) => (20 * s) / 3600),
  };
}

const INTERVALS = [1, 2, 5, 10, 30, 60];
export const CHANNELS = 14;
const CONTROLS = 4;

/** Swapped: what was measured is filed under its neighbour, and the other way round. */
function swapNeighbours(runs: TrustRun[]): void {
  for (let i = 0; i + 1 < runs.length; i++) {
    if (runs[i]!.fault !== 'swapped') continue;
    const [a, b] = [runs[i]!, runs[i + 1]!];
    [a.trueAh, b.trueAh] = [b.trueAh, a.trueAh];
    [a.acMohm, b.acMohm] = [b.acMohm, a.acMohm];
    if (b.fault === 'none') b.fault = 'swapped';
    i++;
  }
}

/** What a lot’s runs are drawn with. */
interface Drawing {
  base: BaseCurve;
  random: ReturnType<typeof seededRandom>;
  gains: readonly number[];
  /** Charge to the cut-off under these conditions over that at the claim’s. */
  factorOf: (currentA: number, temperatureC: number) => number;
  scattered: (ah: number) => number;
}

/** One run of a lot. */
function runOf(i: number, drawing: Drawing, only?: Fault): TrustRun {
  const { base, random, gains, factorOf, scattered } = drawing;
  const drawn =
    random.uniform() < 0.1 ? FAULTS[Math.floor(FAULTS.length * random.uniform())]! : 'none';
  const fault = only === 'swapped' ? (i % 20 === 0 ? only : 'none') : (only ?? drawn);
  const trueAh = 100 * (0.97 + 0.06 * random.uniform());
  const ambientC = 15 + 15 * random.uniform();
  const currentA = 20 * 2 ** (2 * random.uniform() - 1);
  const channel =
    fault === 'wildChannel'
      ? CHANNELS + Math.floor(2 * random.uniform())
      : Math.floor(CHANNELS * random.uniform());
  const twoWire = fault === 'wrongLead' || random.uniform() < 0.3;
  const leadMohm = twoWire ? 1 + 4 * random.uniform() : 0;
  const off = 1 + (0.1 / Math.sqrt(3)) * random.normal();
  // Cells of a lot differ by 4 % in resistance; what AC and load see of it, by 1 % again.
  const ohms = 1 + 0.04 * random.normal();
  return {
    cell: `cell ${i}`,
    channel: `channel ${channel}`,
    fault,
    trueAh,
    ambientC: fault === 'noTemperature' ? null : ambientC,
    ...(fault === 'noRate' ? { rateUnknown: true } : {}),
    leadMohm: !twoWire
      ? null
      : fault === 'wrongLead'
        ? leadMohm * (random.uniform() < 0.5 ? 3 : 0.2)
        : leadMohm * off,
    acMohm: 0.8 * ohms * (1 + 0.005 * random.normal()),
    bytes: writeLog(base, {
      holdsAh: scattered(trueAh * factorOf(currentA, ambientC + 0.6)),
      currentA,
      intervalS: INTERVALS[Math.floor(INTERVALS.length * random.uniform())]!,
      ambientC,
      gain: gains[channel]!,
      leadOhm: leadMohm / 1000,
      ohms: ohms * (1 + 0.01 * random.normal()),
      fault,
      random,
    }),
  };
}

/**
 * A lot of cells whose true capacities spread ±3 % about the claim, on a bench whose channels read
 * a little high or low, in rooms of 15 to 30 °C, at up to twice or half the claimed rate, over
 * leads, with a row every 1 to 60 s; a tenth of the runs with a fault. Control cells ran twice on
 * every channel. The same seed gives the same bytes.
 * @param only the fault of every run, where one is to be counted by itself; of swapped cells every
 * tenth pair, as a lot that is swapped as a whole shows nothing.
 */
export function trustLot(seed: number, cells: number, only?: Fault): TrustLot {
  const random = seededRandom(seed);
  const base = baseCurve();
  // What this model does, about as well known as the house defaults say.
  const k = 1.03 + 0.015 * random.normal();
  const below = 0.005 + 0.002 * random.normal();
  const above = 0.002 + 0.002 * random.normal();
  const common = 0.002 * random.normal();
  const gains = Array.from({ length: CHANNELS }, () => 1 + common + 0.004 * random.normal());
  // Two channels are broken, and nobody knows yet.
  gains.push(1.3, 0.91);
  const factorOf = (currentA: number, temperatureC: number) =>
    1 /
    ((1 + below * (25 - Math.min(25, temperatureC)) + above * (25 - Math.max(25, temperatureC))) *
      (currentA / 20) ** (k - 1));
  const scattered = (ah: number) => ah * (1 + 0.0015 * random.normal());
  const controls = Array.from({ length: CONTROLS }, (_, c) => {
    const holds = 100 * (1 + 0.01 * random.normal());
    return gains.flatMap((gain, channel) =>
      [0, 1].map((): TrustLog => ({
        cell: `control ${c}`,
        channel: `channel ${channel}`,
        leadMohm: null,
        ambientC: 24,
        bytes: writeLog(base, {
          holdsAh: scattered(holds * factorOf(20, 24.6)),
          currentA: 20,
          intervalS: 30,
          ambientC: 24,
          gain,
          leadOhm: 0,
          ohms: 1,
          fault: 'none',
          random,
        }),
      })),
    );
  }).flat();
  const drawn: Drawing = { base, random, gains, factorOf, scattered };
  const runs = Array.from({ length: cells }, (_, i) => runOf(i, drawn, only));
  swapNeighbours(runs);
  return { runs, controls };
}
