import {
  capacityToCutoff,
  cutSections,
  findHoles,
  mainDischarge,
  type Trace,
  unknownTesterAccuracy,
} from '../src/evidence';
import { recordDischarge, typicalCell } from '../src/simulator';

/** A log of a simulated cell without the rows of a stretch; nothing, or the load, went on in it. */
export function holed(options: {
  chemistry?: 'LFP' | 'NMC';
  fromS: number;
  forS: number;
  /** The load stood still: later rows come so much later. */
  stood?: boolean;
  counter?: 'spans' | 'resets' | 'dead';
  countersOnly?: boolean;
  /** What the counter shows at load-on, Ah: it was not zeroed. */
  counterFromAh?: number;
  /** So much more it shows after the hole, Ah. */
  counterJumpAh?: number;
  intervalS?: number;
  /** Charged by so much in the hole, Ah: the discharge goes on with that much more. */
  chargedAh?: number;
}) {
  const { chemistry = 'LFP', fromS, forS, stood = false, intervalS = 10 } = options;
  const plain = recordDischarge(typicalCell(chemistry, 12), {
    currentA: 1.2,
    cutoffV: 2.5,
    intervalS,
    restBeforeS: 300,
    restAfterS: 60,
    ambientC: 23,
    seed: 4,
  });
  // What was put in comes out again after the hole, at the voltages of before.
  const againFrom = fromS - ((options.chargedAh ?? 0) * 3600) / 1.2;
  const rows = options.chargedAh
    ? [
        ...plain.filter(({ timeS }) => timeS <= fromS),
        ...plain
          .filter(({ timeS }) => timeS > againFrom)
          .map((row) => ({ ...row, timeS: row.timeS + fromS - againFrom })),
      ]
    : plain;
  let counted = 0;
  const all = rows.map((row, i) => {
    if (i > 0) counted += (Math.abs(row.currentA) * (row.timeS - rows[i - 1]!.timeS)) / 3600;
    return { ...row, counter: counted };
  });
  const kept = all
    .filter(({ timeS }) => stood || timeS <= fromS || timeS >= fromS + forS)
    .map((row) => ({
      ...row,
      timeS: stood && row.timeS > fromS ? row.timeS + forS : row.timeS,
    }));
  const atHole = kept.find(({ timeS }) => timeS > fromS)?.counter ?? 0;
  const timeS = Float64Array.from(kept, (row) => row.timeS);
  const counterOf = (row: (typeof kept)[number]) =>
    options.counter === 'dead'
      ? 0
      : options.counter === 'resets' && row.timeS > fromS
        ? row.counter - atHole
        : row.counter +
          (options.counterFromAh ?? 0) +
          (row.timeS > fromS ? (options.counterJumpAh ?? 0) : 0);
  const trace: Trace = {
    timeS,
    voltageV: Float64Array.from(kept, (row) => Math.round(row.voltageV * 1000) / 1000),
    currentA: options.countersOnly ? null : Float64Array.from(kept, (row) => row.currentA),
    temperatureC: null,
    counterAh: options.counter
      ? Float64Array.from(kept, (row) => Math.round(counterOf(row) * 1000) / 1000)
      : null,
    counterWh: null,
    cellVoltagesV: [],
    mode: null,
    step: null,
    holes: findHoles(timeS),
    decimals: { timeS: 0, voltageV: 3, currentA: 3, temperatureC: 1 },
    startedAtMs: null,
  };
  const discharge = mainDischarge(cutSections(trace))!;
  const { capacity } = capacityToCutoff(trace, discharge, {
    cutoffV: 2.5,
    accuracy: unknownTesterAccuracy(1.2),
  });
  return { capacity, discharge, trace, trueAh: all[all.length - 1]!.counter };
}
