import { seededRandom } from '../statistics';
import { advance, type CellParameters, restedState, terminalVoltage } from './cell-model';

/** How the simulated channel reads and what may be wrong with it. */
export interface ChannelFaults {
  /** Current reads this many per cent high. */
  currentGainPct: number;
  /** Two-wire leads: resistance inside the voltage reading, mΩ. */
  leadMohm: number;
  /** Standard deviation of the voltage reading, V. */
  voltageNoiseV: number;
  /** Standard deviation of the current reading, A. */
  currentNoiseA: number;
}

/** A channel with nothing wrong but a little noise. */
export const SOUND_CHANNEL: ChannelFaults = {
  currentGainPct: 0,
  leadMohm: 0,
  voltageNoiseV: 0.0004,
  currentNoiseA: 0.001,
};

/** How a simulated discharge is run and recorded. */
export interface DischargePlan {
  currentA: number;
  cutoffV: number;
  intervalS: number;
  restBeforeS: number;
  restAfterS: number;
  ambientC: number;
  seed: number;
  channel?: Partial<ChannelFaults>;
  /** Rows come so much closer, s, from so long before load-on to so long after; else always by `intervalS`. */
  closerAtLoadOn?: { everyS: number; forS: number };
}

/** A recorded row; current positive into the cell. */
export interface RecordedRow {
  timeS: number;
  voltageV: number;
  currentA: number;
  temperatureC: number;
}

/**
 * Rest, discharge a full cell at constant current to the cut-off the channel sees, rest:
 * the rows a channel would log. The same seed gives the same rows.
 */
export function recordDischarge(cell: CellParameters, plan: DischargePlan): RecordedRow[] {
  const channel = { ...SOUND_CHANNEL, ...plan.channel };
  // Rows around load-on have noise of their own, so that the others are the same with and without.
  const [usual, closer] = [seededRandom(plan.seed), seededRandom(plan.seed ^ 0x5bd1e995)];
  const rows: RecordedRow[] = [];
  let state = restedState(1, plan.ambientC);
  let timeS = 0;
  const record = (currentA: number, random = usual): number => {
    const seenV = terminalVoltage(cell, state, currentA) + (channel.leadMohm / 1000) * currentA;
    rows.push({
      timeS,
      voltageV: seenV + channel.voltageNoiseV * random.normal(),
      currentA:
        currentA === 0
          ? 0
          : currentA * (1 + channel.currentGainPct / 100) + channel.currentNoiseA * random.normal(),
      temperatureC: state.temperatureC + 0.05 * random.normal(),
    });
    return seenV;
  };
  const hold = (currentA: number, durationS: number): void => {
    state = advance(cell, state, { currentA, durationS, ambientC: plan.ambientC });
    timeS += durationS;
  };
  const { everyS, forS } = plan.closerAtLoadOn ?? { everyS: plan.intervalS, forS: 0 };
  /** Holds a current for one interval, with rows in between where they come closer. */
  const holdOne = (currentA: number, close: boolean): void => {
    const steps = close ? Math.round(plan.intervalS / everyS) : 1;
    for (let step = 1; step <= steps; step++) {
      hold(currentA, plan.intervalS / steps);
      if (step < steps) record(currentA, closer);
    }
  };
  while (timeS < plan.restBeforeS) {
    record(0);
    holdOne(0, timeS + plan.intervalS > plan.restBeforeS - forS);
  }
  let seenV = record(-plan.currentA);
  const longest = (2 * 3600 * cell.capacityAh) / plan.currentA;
  const loadOnS = timeS;
  while (seenV > plan.cutoffV && timeS - loadOnS < longest) {
    // Close to the cut-off the load checks every second and switches off at once.
    const nearEnd = seenV < plan.cutoffV + 0.03;
    if (nearEnd) hold(-plan.currentA, 1);
    else holdOne(-plan.currentA, timeS - loadOnS < forS);
    const due = (timeS - loadOnS) % plan.intervalS < 1e-9;
    const now =
      terminalVoltage(cell, state, -plan.currentA) - (channel.leadMohm / 1000) * plan.currentA;
    seenV = due || now <= plan.cutoffV ? record(-plan.currentA) : now;
  }
  const restEndS = timeS + plan.restAfterS;
  for (hold(0, 2); timeS < restEndS; hold(0, plan.intervalS)) record(0);
  return rows;
}

/** Rows as a log in the shape `time_s,voltage_V,current_A,temperature_C`. */
export function rowsAsCsv(rows: RecordedRow[]): string {
  const lines = rows.map(
    (row) =>
      `${row.timeS},${row.voltageV.toFixed(3)},${row.currentA.toFixed(3)},${row.temperatureC.toFixed(1)}`,
  );
  return `time_s,voltage_V,current_A,temperature_C\n${lines.join('\n')}\n`;
}
