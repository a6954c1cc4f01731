import { describe, expect, it } from 'vitest';
import { groupAlarms } from '../features/bench/alarm-groups';
import { TILE_SIZES, tileSizeFor } from '../features/bench/tile-size';
import { midnights, movedBy, QUARTER_MS, xOf } from '@/features/bench/plan-scale';
import { newStep, stepWords } from '@/features/bench/recipe-steps';
import {
  eventWords,
  MOST_POINTS,
  type RunState,
  type StreamedRecord,
  withRecords,
} from '@/features/bench/run-state';
import { lengthOf } from '@/features/bench/words';
import { clockOf } from '@/kit/use-clock';

const HOUR = 3_600_000;

describe('the scale of the plan', () => {
  const fromMs = Date.parse('2026-03-27T06:00:00Z');
  const scale = { fromMs, toMs: fromMs + 72 * HOUR, width: 720 };
  it('puts an hour on ten pixels and a dropped job on a quarter of an hour', () => {
    expect(xOf(scale, fromMs + HOUR)).toBe(10);
    const start = fromMs + 5 * HOUR;
    expect(movedBy(scale, start, 30)).toBe(start + 3 * HOUR);
    expect(movedBy(scale, start, -11) % QUARTER_MS).toBe(0);
    expect(movedBy(scale, start, 0)).toBe(start);
  });
  it('marks each midnight of the lab once, across a change of the clock', () => {
    const marks = midnights(scale, 'Europe/Vienna');
    expect(marks.map(({ atMs }) => new Date(atMs).toISOString())).toEqual([
      '2026-03-27T23:00:00.000Z',
      '2026-03-28T23:00:00.000Z',
      '2026-03-29T22:00:00.000Z',
    ]);
    expect(marks[0]!.words).toContain('28');
  });
});

describe('words of the bench', () => {
  it('say lengths and times as people do', () => {
    expect([30, 3600, 3660, 50 * 3600].map(lengthOf)).toEqual([
      '1 min',
      '1 h 0 min',
      '1 h 1 min',
      '2 d 2 h',
    ]);
    const now = new Date('2026-03-04T09:00:00Z');
    expect(clockOf('2026-03-04T14:20:00Z', now, 'UTC')).toBe('14:20');
    expect(clockOf('2026-03-06T14:20:00Z', now, 'UTC')).toBe('Fri 14:20');
    expect(clockOf('2026-03-20T14:20:00Z', now, 'UTC')).toBe('20 Mar 14:20');
  });
  it('say every kind of step', () => {
    expect(stepWords(newStep('discharge'))).toBe(
      'Discharge at the claim’s rate to the claim’s cut-off',
    );
    expect(stepWords(newStep('repeat'))).toMatch(/^3 times: Charge at 0\.5 It/);
    expect(stepWords({ kind: 'rest', minutes: 28 * 1440 })).toBe('Rest 28 days');
    expect(
      stepWords({
        kind: 'discharge',
        load: { by: 'resistor', ohm: 2 },
        cutoffV: 3,
        maxHours: 0.5,
        limitAh: 4,
      }),
    ).toBe('Discharge into 2 Ω to 3 V, at most 30 min, at most 4 Ah');
  });
});

describe('tiles of the live board', () => {
  const laptop = { width: 1024, height: 600 };
  it('are large for a few channels and small for many, and 64 fit on a laptop’s screen', () => {
    expect(tileSizeFor(8, laptop)).toBe('large');
    expect(tileSizeFor(18, laptop)).toBe('small');
    expect(tileSizeFor(64, laptop)).toBe('tiny');
    const { width, height } = TILE_SIZES.tiny;
    const columns = Math.floor((laptop.width + 8) / (width + 8));
    expect(Math.ceil(64 / columns) * height).toBeLessThanOrEqual(laptop.height);
    expect(tileSizeFor(64, { width: 2400, height: 1300 })).toBe('large');
  });
  it('never grow with more channels, nor shrink with more room', () => {
    const order = Object.keys(TILE_SIZES);
    const rank = (count: number, room: { width: number; height: number }) =>
      order.indexOf(tileSizeFor(count, room));
    for (let count = 1; count < 300; count += 7) {
      expect(rank(count + 7, laptop)).toBeGreaterThanOrEqual(rank(count, laptop));
      expect(rank(count, { width: 1600, height: 900 })).toBeLessThanOrEqual(rank(count, laptop));
    }
  });
});

describe('alarms that are drawn together', () => {
  const at = (seconds: number) => new Date(Date.UTC(2026, 2, 4, 9, 0, seconds));
  const alarm = (id: number, code: string, action: string, seconds: number) =>
    ({ id, code, action, at: at(seconds), benchRunId: id }) as never;
  const ids = (alarms: readonly never[]) =>
    groupAlarms(alarms).map((group) => group.map(({ id }) => id));
  it('are alike and of about the same time, worst groups first', () => {
    expect(
      ids([
        alarm(1, 'clockJump', 'tell', 0),
        alarm(2, 'noReadings', 'stop', 10),
        alarm(3, 'clockJump', 'tell', 20),
        alarm(4, 'noReadings', 'stop', 30),
        alarm(5, 'clockJump', 'tell', 400),
      ]),
    ).toEqual([[4, 2], [5], [3, 1]]);
  });
  it('never hide a cell that is blocked', () => {
    expect(
      ids([alarm(1, 'heatOnCharge', 'block', 0), alarm(2, 'heatOnCharge', 'block', 1)]),
    ).toEqual([[2], [1]]);
  });
  it('all are in exactly one group', () => {
    const many = Array.from({ length: 60 }, (_, i) =>
      alarm(i + 1, i % 3 === 0 ? 'noReadings' : 'currentOff', i % 3 === 0 ? 'stop' : 'tell', i * 7),
    );
    expect(
      ids(many)
        .flat()
        .sort((a, b) => a - b),
    ).toEqual(many.map((_, i) => i + 1));
  });
});

describe('a run as it goes', () => {
  const record = (seq: number, more: Partial<StreamedRecord> = {}): StreamedRecord => ({
    seq,
    timeS: seq,
    step: 0,
    voltageV: 3.3,
    currentA: -20,
    temperatureC: null,
    event: null,
    ...more,
  });
  const none: RunState = { points: [], events: [] };
  it('readings become points, what happened becomes events, in order', () => {
    const { points, events } = withRecords(none, [
      record(1),
      record(2, { voltageV: null, currentA: null, event: { event: 'resumed' } as never }),
      record(3),
    ]);
    expect(points.map(({ seq }) => seq)).toEqual([1, 3]);
    expect(events.map(({ event }) => eventWords(event))).toEqual(['Went on.']);
  });
  it('nothing that happened leaves the events as they are', () => {
    expect(withRecords(none, [record(1)]).events).toBe(none.events);
  });
  it('a long run is thinned, its newest points and its order kept', () => {
    let state = none;
    for (let i = 0; i < 40; i++)
      state = withRecords(
        state,
        Array.from({ length: 100 }, (_, k) => record(i * 100 + k)),
      );
    const { points } = state;
    expect(points.length).toBeLessThanOrEqual(MOST_POINTS);
    expect(points.slice(-150).map(({ seq }) => seq)).toEqual(
      Array.from({ length: 150 }, (_, k) => 3850 + k),
    );
    for (let i = 1; i < points.length; i++)
      expect(points[i]!.seq).toBeGreaterThan(points[i - 1]!.seq);
  });
  it.each([
    [{ event: 'step', step: 1 }, 'Step 2 began.'],
    [
      { event: 'stepEnded', step: 0, reason: 'voltage', ah: 5.9 },
      'Step 1 ended by voltage, 5.900 Ah moved.',
    ],
    [{ event: 'ended', completed: false, reason: 'Stopped by Tess.' }, 'Ended. Stopped by Tess.'],
  ])('%o is said as “%s”', (event, words) => {
    expect(eventWords(event as never)).toBe(words);
  });
});
