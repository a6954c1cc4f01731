import { describe, expect, it } from 'vitest';
import {
  isBetter,
  type Placement,
  type Plan,
  planFaults,
  type PlanningProblem,
} from '../src/bench';

const H = 3600;
/** Two channels, one job of two parts with a rest of 6 h between them, one of one part that is watched. */
const PROBLEM: PlanningProblem = {
  jobs: [
    {
      id: 7,
      releaseS: H,
      dueS: null,
      priority: 1,
      legs: [
        { durationS: [4 * H, 6 * H], attendedShare: 0.5, restBeforeS: 0 },
        { durationS: [2 * H, Infinity], attendedShare: 0, restBeforeS: 6 * H },
      ],
    },
    {
      id: 9,
      releaseS: 0,
      dueS: 20 * H,
      priority: 2,
      legs: [{ durationS: [3 * H, 3 * H], attendedShare: 1, restBeforeS: 0 }],
    },
  ],
  channels: [
    { id: 1, taken: [{ fromS: 20 * H, toS: 22 * H }] },
    { id: 2, taken: [] },
  ],
  attended: [
    { fromS: 0, toS: 10 * H },
    { fromS: 24 * H, toS: 34 * H },
  ],
  pinned: [],
};

const place = (
  job: number,
  leg: number,
  channel: number,
  fromH: number,
  hours: number,
): Placement => ({
  job,
  leg,
  channel,
  fromS: fromH * H,
  toS: (fromH + hours) * H,
});
const WELL = [place(7, 0, 0, 1, 4), place(7, 1, 0, 24, 2), place(9, 0, 1, 5, 3)];
const reasons = (placements: Placement[], problem: PlanningProblem = PROBLEM) =>
  planFaults(problem, placements).map(({ job, leg, reason }) => [job, leg, reason]);

describe('rules a plan keeps', () => {
  it('a plan that keeps them all has no fault, in whatever order it is told', () => {
    expect(reasons(WELL)).toEqual([]);
    expect(reasons(WELL.toReversed())).toEqual([]);
    expect(reasons([])).toEqual([]);
  });
  it.each<[string, Placement[], [number, number, string][]]>([
    ['of a job nobody knows', [place(8, 0, 0, 1, 4)], [[8, 0, 'There is no such job.']]],
    ['of a part a job does not have', [place(9, 1, 0, 1, 3)], [[9, 1, 'There is no such job.']]],
    [
      'on a channel that cannot run it',
      [place(7, 0, 0, 1, 4), place(7, 1, 1, 24, 2)],
      [[7, 1, 'The channel cannot run it: see its limits.']],
    ],
    [
      'on a channel there is none of',
      [place(9, 0, 5, 1, 3)],
      [[9, 0, 'The channel cannot run it: see its limits.']],
    ],
    [
      'shorter than it takes',
      [place(9, 0, 0, 1, 2)],
      [[9, 0, 'It takes another time on this channel.']],
    ],
    [
      'as long as on another channel',
      [place(7, 0, 1, 1, 4)],
      [[7, 0, 'It takes another time on this channel.']],
    ],
    [
      'begun at night',
      [place(9, 0, 0, 11, 3)],
      [[9, 0, 'Nobody is there to connect it at that hour.']],
    ],
    [
      'watched past the day',
      [place(9, 0, 0, 8, 3)],
      [[9, 0, 'It must run in attended hours from start to finish.']],
    ],
    [
      'whose first charge ends at night',
      [place(7, 0, 0, 9, 4)],
      [[7, 0, 'Its first charge must end while somebody is there.']],
    ],
    ['before it is released', [place(7, 0, 0, 0.5, 4)], [[7, 0, 'It cannot start that early.']]],
    [
      'before its rest is over',
      // The first part ends at 32 h; six hours later it is 38 h.
      [place(7, 0, 0, 28, 4), place(7, 1, 0, 33, 2)],
      [[7, 1, 'The part before it, or its rest, is not over then.']],
    ],
    [
      'on a channel another cell is on',
      [place(7, 0, 0, 1, 4), place(9, 0, 0, 4, 3)],
      [[9, 0, 'Another cell is on the channel then.']],
    ],
  ])('%s', (_name, placements, faults) => expect(reasons(placements)).toEqual(faults));

  it('what is taken is taken, whole or in part, and free at its very ends', () => {
    const at = (fromH: number) => {
      const always = { ...PROBLEM, attended: [{ fromS: 0, toS: 99 * H }] };
      return reasons([place(9, 0, 0, fromH, 3)], always).map(([, , reason]) => reason);
    };
    expect(at(17)).toEqual([]);
    expect(at(22)).toEqual([]);
    for (const fromH of [17.5, 19, 20, 21.5])
      expect(at(fromH)).toEqual(['The channel is taken then.']);
  });

  it('every fault of a placement is told, not only its first', () => {
    expect(reasons([place(7, 0, 1, 0, 5)])).toEqual([
      [7, 0, 'It takes another time on this channel.'],
      [7, 0, 'It cannot start that early.'],
    ]);
  });

  it('half a second of rounding is no fault', () => {
    const shifted = WELL.map((one) => ({ ...one, fromS: one.fromS - 0.4, toS: one.toS - 0.4 }));
    expect(reasons(shifted)).toEqual([]);
    expect(
      reasons(WELL.map((one) => ({ ...one, fromS: one.fromS - 0.7, toS: one.toS - 0.7 }))),
    ).toEqual([
      [7, 1, 'Nobody is there to connect it at that hour.'],
      [7, 0, 'It cannot start that early.'],
    ]);
  });
});

describe('the better of two plans', () => {
  const plan = (impossible: number, latenessS: number, finishS: number): Plan => ({
    placements: [],
    impossible: Array.from({ length: impossible }, (_, job) => ({ job, reason: '' })),
    latenessS,
    finishS,
    lateJobs: 0,
  });
  it('leaves out fewer, then is less late, then ends earlier', () => {
    expect(isBetter(plan(0, 900, 900), plan(1, 0, 0))).toBe(true);
    expect(isBetter(plan(1, 0, 0), plan(0, 900, 900))).toBe(false);
    expect(isBetter(plan(0, 10, 900), plan(0, 20, 0))).toBe(true);
    expect(isBetter(plan(0, 20, 0), plan(0, 10, 900))).toBe(false);
    expect(isBetter(plan(0, 10, 100), plan(0, 10.5, 200))).toBe(true);
    expect(isBetter(plan(0, 10, 200), plan(0, 10.5, 100))).toBe(false);
  });
  it('no plan is better than itself, nor by less than a second', () => {
    expect(isBetter(plan(0, 10, 100), plan(0, 10, 100))).toBe(false);
    expect(isBetter(plan(0, 10, 100), plan(0, 10, 100.5))).toBe(false);
  });
});
