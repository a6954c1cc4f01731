import type { Assignment, RunEvent } from '@dusk-tally/core/bench';
import { describe, expect, it } from 'vitest';
import { AgentRun } from '../src/agent/agent-run';
import type { JournalEntry } from '../src/agent/journal';

const assignment = {
  run: 7,
  channel: { id: 1, title: 'Place 1' },
  program: [{ kind: 'rest', seconds: 90_000 }],
  limits: { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 },
  counterAh: 0,
} as unknown as Assignment;

const endedOf = (entries: JournalEntry[]) =>
  entries
    .flatMap((entry) =>
      entry.t === 'record' && entry.record.kind === 'event' ? [entry.record.event] : [],
    )
    .find((event): event is Extract<RunEvent, { event: 'ended' }> => event.event === 'ended')!;

/** A run of some hours whose instrument’s clock goes by its own pace. */
function runWith(pace: number, forS: number, jumpS = 0) {
  const run = new AgentRun(assignment, 0, 1);
  run.begin();
  for (let t = 0; t <= forS; t += 100)
    run.clockShown(1000 + t * pace + (t > forS / 2 ? jumpS : 0), t, 'Place 1');
  return endedOf(run.end('by hand', forS));
}

describe('clocks of agent and instrument', () => {
  it('that went apart over the run are said at its end', () => {
    expect(runWith(1.02, 18_000).clocksApart).toBeCloseTo(0.02, 6);
    expect(runWith(0.985, 18_000).clocksApart).toBeCloseTo(-0.015, 6);
    expect(runWith(1, 18_000).clocksApart).toBeCloseTo(0, 9);
  });
  it('a jump that was told is no pace, and a short look says nothing', () => {
    expect(runWith(1, 18_000, 5000).clocksApart).toBeCloseTo(0, 9);
    expect(runWith(1.02, 600).clocksApart).toBeUndefined();
  });
});
