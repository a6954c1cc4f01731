import { seededRandom } from '../statistics';
import { advance, type CellParameters, restedState, terminalVoltage } from './cell-model';

/** A cell of a simulated string, and how full it is when the log begins, 0 to 1. */
export interface StringMember {
  cell: CellParameters;
  from: number;
}

/** How a simulated string is cycled, and what its monitor does. */
export interface StringPlan {
  currentA: number;
  /** The charge ends when the highest cell stands at this, the discharge when the lowest does, V. */
  highestV: number;
  lowestV: number;
  restS: number;
  cycles: number;
  intervalS: number;
  ambientC: number;
  /** While charging, the monitor bleeds cells this far above the lowest of them, V; with this current, A. */
  bleed: { aboveV: number; overV: number; currentA: number } | null;
  /** Noise of the monitor’s voltages, V. */
  noiseV: number;
  /** How far the monitor’s own reading of each cell wanders, V, over about twenty minutes. */
  wanderV: number;
  seed: number;
}

/** One row of a monitor’s log: charging positive. */
export interface StringRow {
  timeS: number;
  currentA: number;
  cellsV: number[];
}

const WANDER_S = 1200;

/**
 * Cycles of an assembled string as its monitor logs them: charge, rest, discharge, rest. The same
 * seed gives the same rows.
 */
export function recordString(members: readonly StringMember[], plan: StringPlan): StringRow[] {
  const random = seededRandom(plan.seed);
  const states = members.map(({ from }) => restedState(from, plan.ambientC));
  const rows: StringRow[] = [];
  const wander = members.map(() => plan.wanderV * random.normal());
  const kept = Math.exp(-plan.intervalS / WANDER_S);
  let timeS = 0;
  const voltages = (currentA: number) =>
    members.map(({ cell }, c) => terminalVoltage(cell, states[c]!, currentA));
  const step = (currentA: number): number[] => {
    const now = voltages(currentA);
    rows.push({
      timeS,
      currentA,
      cellsV: now.map((v, c) => v + wander[c]! + plan.noiseV * random.normal()),
    });
    for (let c = 0; c < wander.length; c++)
      wander[c] = kept * wander[c]! + Math.sqrt(1 - kept ** 2) * plan.wanderV * random.normal();
    const lowest = Math.min(...now);
    members.forEach(({ cell }, c) => {
      const { bleed } = plan;
      const bled =
        bleed && currentA > 0 && now[c]! > bleed.aboveV && now[c]! > lowest + bleed.overV
          ? bleed.currentA
          : 0;
      states[c] = advance(cell, states[c]!, {
        currentA: currentA - bled,
        durationS: plan.intervalS,
        ambientC: plan.ambientC,
      });
    });
    timeS += plan.intervalS;
    return now;
  };
  const longest = Math.ceil(
    (2 * 3600 * Math.max(...members.map(({ cell }) => cell.capacityAh))) /
      plan.currentA /
      plan.intervalS,
  );
  const until = (currentA: number, ends: (cellsV: number[]) => boolean) => {
    for (let i = 0; i < longest; i++) if (ends(step(currentA))) return;
  };
  const rest = () => {
    for (let s = 0; s < plan.restS; s += plan.intervalS) step(0);
  };
  for (let cycle = 0; cycle < plan.cycles; cycle++) {
    until(plan.currentA, (cellsV) => Math.max(...cellsV) >= plan.highestV);
    rest();
    until(-plan.currentA, (cellsV) => Math.min(...cellsV) <= plan.lowestV);
    rest();
  }
  return rows;
}

/** Rows as the text of a monitor that writes one column per cell, voltages to three decimals. */
export function stringAsCsv(rows: readonly StringRow[], startedAtS: number): string {
  const cells = rows[0]?.cellsV.length ?? 0;
  const head = ['unix_s', 'pack_A', ...Array.from({ length: cells }, (_, c) => `cell${c + 1}_V`)];
  const lines = rows.map(({ timeS, currentA, cellsV }) =>
    [startedAtS + timeS, currentA.toFixed(2), ...cellsV.map((v) => v.toFixed(3))].join(','),
  );
  return `${head.join(',')}\n${lines.join('\n')}\n`;
}
