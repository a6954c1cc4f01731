import { seededRandom } from '../statistics';
import { advance, type CellParameters, restedState, terminalVoltage } from './cell-model';
import type { RecordedRow } from './record-discharge';

/** How a simulated charge is run and recorded. */
export interface ChargePlan {
  currentA: number;
  /** Held once the voltage reaches it, V. */
  chargeV: number;
  /** The charge ends when the current falls to this, A. */
  taperA: number;
  intervalS: number;
  restBeforeS: number;
  ambientC: number;
  seed: number;
  /** State of charge at the start, 0 to 1. */
  from: number;
  /** What a cell that never cycled stands above its usual voltage near full, V. */
  risesEarlyV?: number;
}

/** From here to full a cell that never cycled stands above its usual voltage, most half way. */
const RISES_FROM = 0.55;

/**
 * Rest, then charge at constant current and constant voltage: the rows a channel would log. The
 * same seed gives the same rows.
 */
export function recordCharge(cell: CellParameters, plan: ChargePlan): RecordedRow[] {
  const random = seededRandom(plan.seed);
  const rows: RecordedRow[] = [];
  let state = restedState(plan.from, plan.ambientC);
  let timeS = 0;
  const above = () => {
    const share = Math.max(0, Math.min(1, (state.stateOfCharge - RISES_FROM) / (1 - RISES_FROM)));
    return (plan.risesEarlyV ?? 0) * Math.sin(Math.PI * share);
  };
  const record = (currentA: number) =>
    rows.push({
      timeS,
      voltageV:
        Math.min(
          plan.chargeV,
          terminalVoltage(cell, state, currentA) + (currentA > 0 ? above() : 0),
        ) +
        0.0004 * random.normal(),
      currentA: currentA === 0 ? 0 : currentA + 0.001 * random.normal(),
      temperatureC: state.temperatureC + 0.05 * random.normal(),
    });
  const hold = (currentA: number) => {
    state = advance(cell, state, { currentA, durationS: plan.intervalS, ambientC: plan.ambientC });
    timeS += plan.intervalS;
  };
  for (; timeS < plan.restBeforeS; hold(0)) record(0);
  let currentA = plan.currentA;
  const longestS = (3 * 3600 * cell.capacityAh) / plan.currentA + plan.restBeforeS;
  while (currentA > plan.taperA && timeS < longestS) {
    record(currentA);
    hold(currentA);
    // Current at which the terminals stand at the charge voltage.
    const open = terminalVoltage(cell, state, 0) + above();
    const ohm = (terminalVoltage(cell, state, 1) - terminalVoltage(cell, state, 0)) / 1;
    currentA = Math.min(plan.currentA, Math.max(0, (plan.chargeV - open) / ohm));
  }
  record(currentA);
  return rows;
}
