import { courseS, type ExpectedStep, expectedCourse, remainingS } from '@dusk-tally/core/bench';
import type { BenchLiveRow, BenchRunRow } from '@dusk-tally/store';

/** How a run is expected to go, from its own program. */
export const courseOfRun = (
  run: Pick<BenchRunRow, 'program' | 'chemistry' | 'expectedAh' | 'startSoc'>,
): ExpectedStep[] =>
  expectedCourse(run.program, {
    chemistry: run.chemistry,
    capacityAh: run.expectedAh,
    stateOfCharge: run.startSoc,
    tauS: null,
  });

/** How far a run is. */
export interface RunProgress {
  /** Charge so far over expected in its step, 0 to 1; null where the step moves none. */
  share: number | null;
  /** Real time left, s. */
  leftS: number;
  /** What its step is expected to move, Ah. */
  expectedAh: number;
}

export function progressOf(run: BenchRunRow, live: BenchLiveRow | null): RunProgress {
  const course = courseOfRun(run);
  const total = courseS(course);
  if (!live) return { share: null, leftS: total / run.speed, expectedAh: 0 };
  const step = run.program[live.step];
  const expected = course[live.step];
  if (!step || !expected) return { share: 1, leftS: 0, expectedAh: 0 };
  const expectedAh = Math.abs(expected.toSoc - expected.fromSoc) * run.expectedAh;
  const left = remainingS(step, expected, {
    sinceS: live.timeS - live.stepSinceS,
    ah: live.stepAh,
    currentA: live.currentA ?? 0,
    expectedAh,
  });
  return {
    share: expectedAh > 0 ? Math.min(1, live.stepAh / expectedAh) : null,
    leftS: (left + total - expected.toS) / run.speed,
    expectedAh,
  };
}

/** How long a run still takes, s of real time; what nothing was heard of is taken as just begun. */
export const remainingOfRun = (run: BenchRunRow, live: BenchLiveRow | null, now: Date): number => {
  const { leftS } = progressOf(run, live);
  const sinceS = live ? Math.max(0, (now.getTime() - live.receivedAt.getTime()) / 1000) : 0;
  return Math.max(60, leftS - Math.min(sinceS, leftS));
};
