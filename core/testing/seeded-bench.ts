import type { PlannedJob, PlannerChannel, PlanningProblem, Span } from '../src/bench';
import { seededRandom } from '../src/statistics';

const HOUR = 3600;
const DAY = 24 * HOUR;

/** Attended hours of a week from a Monday at midnight, over some days. */
export function attendedHours(days: number, { from = 8, to = 18, weekends = false } = {}): Span[] {
  return Array.from({ length: days }, (_, day) => day)
    .filter((day) => weekends || day % 7 < 5)
    .map((day) => ({ fromS: day * DAY + from * HOUR, toS: day * DAY + to * HOUR }));
}

/**
 * A lab’s next six weeks: lots that arrive one after the other, a mix of recipes, channels of three
 * sizes of which the smallest can not charge or not take the large cells.
 */
export function seededBench(
  seed: number,
  { jobs: count = 500, channels: width = 64, days = 98, arriving = seed % 2 === 1 } = {},
): PlanningProblem {
  const random = seededRandom(seed);
  const uniform = (low: number, high: number) => low + (high - low) * random.uniform();
  const channels: PlannerChannel[] = Array.from({ length: width }, (_, i) => ({
    id: i + 1,
    taken: random.uniform() < 0.2 ? [{ fromS: 0, toS: uniform(1, 20) * HOUR }] : [],
  }));
  const size = channels.map((_, i) => (i % 4 === 0 ? 'large' : i % 4 === 1 ? 'small' : 'middle'));
  const lots = Math.max(1, Math.round(count / 40));
  const jobs: PlannedJob[] = [];
  for (let lot = 0; lot < lots; lot++) {
    const releaseS = arriving && lots > 1 ? (lot / (lots - 1)) * uniform(30, 42) * DAY : 0;
    const kind = random.uniform();
    // All there from the first day, they fill six weeks: rate sets, conditioning, retention.
    const base = (arriving ? uniform(7, 16) : uniform(12, 140)) * HOUR;
    for (let i = 0; i < Math.ceil(count / lots) && jobs.length < count; i++) {
      const needs =
        kind < 0.3 ? ['large'] : kind < 0.6 ? ['large', 'middle'] : ['large', 'middle', 'small'];
      const hours = base * uniform(0.95, 1.05);
      const durationS = (factor: number) =>
        size.map((one) =>
          needs.includes(one) ? hours * factor * (one === 'small' ? 1.3 : 1) : Infinity,
        );
      const first = random.uniform() < (arriving ? 0.2 : 0.05);
      jobs.push({
        id: jobs.length + 1,
        releaseS,
        dueS: random.uniform() < 0.3 ? releaseS + uniform(6, 20) * DAY : null,
        priority: random.uniform() < 0.2 ? 3 : 1,
        legs: first
          ? [
              { durationS: durationS(arriving ? 0.4 : 0.05), attendedShare: 1, restBeforeS: 0 },
              { durationS: durationS(0.7), attendedShare: 0, restBeforeS: 12 * HOUR },
            ]
          : [{ durationS: durationS(1), attendedShare: 0, restBeforeS: 0 }],
      });
    }
  }
  return { jobs, channels, attended: attendedHours(days), pinned: [] };
}
