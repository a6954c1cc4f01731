import { expect, it } from 'vitest';
import { figuresOfLog, readLog } from '../src/evidence';
import {
  advance,
  recordDischarge,
  restedState,
  rowsAsCsv,
  terminalVoltage,
  typicalCell,
} from '../src/simulator';

it('rows closer together around load-on show the DC resistance, and leave the others as they are', () => {
  const cell = typicalCell('LFP', 6);
  const plan = {
    currentA: 1.2,
    cutoffV: 2.5,
    intervalS: 10,
    restBeforeS: 600,
    restAfterS: 60,
    ambientC: 23,
    seed: 5,
  };
  const usual = recordDischarge(cell, plan);
  const closer = recordDischarge(cell, { ...plan, closerAtLoadOn: { everyS: 1, forS: 60 } });
  const stamps = new Set(usual.map(({ timeS }) => timeS));
  const same = closer.filter(({ timeS }) => stamps.has(timeS));
  expect(same).toHaveLength(usual.length);
  for (const [i, row] of same.entries()) expect(row.voltageV).toBeCloseTo(usual[i]!.voltageV, 9);
  const read = (rows: typeof usual) =>
    figuresOfLog(readLog(new TextEncoder().encode(rowsAsCsv(rows))), {
      cutoffsV: [2.5],
      accuracy: null,
    });
  const of = (rows: typeof usual) => read(rows).resistance.r10s.figure;
  expect(of(usual)).toBeNull();
  const figure = of(closer)!;
  // Ohmic part and what the pair of time constants adds within 10 s, from the simulator itself.
  const still = terminalVoltage(cell, restedState(1, 23), 0);
  const loaded = terminalVoltage(
    cell,
    advance(cell, restedState(1, 23), { currentA: -1.2, durationS: 10, ambientC: 23 }),
    -1.2,
  );
  const trueMohm = ((still - loaded) / 1.2) * 1000;
  expect(Math.abs(figure.value - trueMohm)).toBeLessThan(2 * figure.standardUncertainty!);
});
