import { choicesOf } from './build-plan';
import type { PlanningProblem, Span } from './problem';
import { Timeline } from './timeline';

/** Time is looked at in steps of this length, s, always in the plan’s favour. */
const GRID_S = 900;
/** Farthest ahead that is looked at, in steps. */
const MOST_STEPS = 60 * 96;

/** A bound no plan can finish before, and what it comes from. */
export interface LowerBound {
  finishS: number;
  /** In words. */
  from: string;
}

/** When a job would be done with the whole bench to itself, s. */
function alone(problem: PlanningProblem, index: number): number {
  const job = problem.jobs[index]!;
  let readyS = job.releaseS;
  for (const leg of job.legs) {
    readyS += leg.restBeforeS;
    let doneS = Infinity;
    const seen = new Set<string>();
    problem.channels.forEach(({ taken }, channel) => {
      const durationS = leg.durationS[channel]!;
      if (!Number.isFinite(durationS)) return;
      const like = `${durationS}/${taken.length === 0 ? '' : channel}`;
      if (seen.has(like)) return;
      seen.add(like);
      const startS = new Timeline(taken).earliest(leg, durationS, readyS, {
        attended: problem.attended,
        givenUpS: doneS - durationS,
      });
      doneS = Math.min(doneS, startS + durationS);
    });
    readyS = doneS;
  }
  return readyS;
}

/** Legs of about one length, of which a channel can run any. */
interface Kind {
  /** Length in steps, rounded down. */
  steps: number;
  /** Steps from its start in which somebody must be there, rounded down. */
  watched: number;
  count: number;
  /** What one of them is worth in the bound. */
  price: number;
}

interface Work {
  durationS: number;
  attendedShare: number;
}

/** Legs are told apart to this many steps. */
const KIND_STEPS = 2;
/** Times the prices are set anew. */
const ROUNDS = 16;

function kindsOf(work: readonly Work[]): Kind[] {
  const kinds = new Map<string, Kind>();
  for (const { durationS, attendedShare } of work) {
    const steps = Math.floor(durationS / GRID_S / KIND_STEPS) * KIND_STEPS;
    const watched = Math.floor(steps * attendedShare);
    const key = `${steps}/${watched}`;
    let kind = kinds.get(key);
    if (!kind) kinds.set(key, (kind = { steps, watched, count: 0, price: Math.max(steps, 1) }));
    kind.count++;
  }
  return [...kinds.values()];
}

/** When legs may start, step by step. */
interface Hours {
  startable: Uint8Array;
  /** Last step of the window a step lies in. */
  until: Int32Array;
}

function hoursOf(attended: readonly Span[], steps: number): Hours {
  const startable = new Uint8Array(steps + 1);
  const until = new Int32Array(steps + 1);
  for (const { fromS, toS } of attended) {
    const last = Math.min(steps, Math.ceil(toS / GRID_S));
    for (let step = Math.max(0, Math.floor(fromS / GRID_S)); step <= last; step++) {
      startable[step] = 1;
      until[step] = last;
    }
  }
  return { startable, until };
}

/**
 * Most worth one channel can be given up to each step, were there any number of each kind of leg:
 * what starts only in attended hours leaves nights that not every leg fills.
 */
function mostWorth(
  kinds: readonly Kind[],
  { startable, until }: Hours,
  free: number,
  steps: number,
) {
  const worth = new Float64Array(steps + 1).fill(-1);
  /** Kind whose end a step is in the best course; −1 for waiting. */
  const by = new Int32Array(steps + 1).fill(-1);
  worth.fill(0, 0, Math.min(free, steps) + 1);
  for (let step = free; step < steps; step++) {
    const now = worth[step]!;
    if (now >= worth[step + 1]!) {
      worth[step + 1] = now;
      by[step + 1] = -1;
    }
    if (!startable[step]) continue;
    for (let k = 0; k < kinds.length; k++) {
      const kind = kinds[k]!;
      const end = step + kind.steps;
      if (end > steps || (kind.watched > 0 && step + kind.watched > until[step]! + 1)) continue;
      const then = now + kind.price;
      if (then > worth[end]!) {
        worth[end] = then;
        by[end] = k;
      }
    }
  }
  return { worth, by };
}

/** How often each kind occurs in the best course of one channel up to a step. */
function usedBy(kinds: readonly Kind[], by: Int32Array, free: number, until: number): Float64Array {
  const used = new Float64Array(kinds.length);
  for (let step = until; step > free;) {
    const k = by[step]!;
    if (k < 0) {
      step--;
      continue;
    }
    used[k] = used[k]! + 1;
    step -= Math.max(1, kinds[k]!.steps);
  }
  return used;
}

/**
 * Least time in which work fits on channels, s. Any prices of the kinds give a bound: all legs
 * together must be worth no more than what the channels can hold. Those used more often than there
 * are of them are made cheaper, the others dearer (Lagrangian relaxation), and the best bound kept.
 */
function leastTime(
  work: readonly Work[],
  problem: PlanningProblem,
  channels: readonly number[],
): number {
  const total = work.reduce((sum, { durationS }) => sum + durationS, 0);
  if (total === 0) return 0;
  const kinds = kindsOf(work);
  const steps = Math.min(MOST_STEPS, Math.ceil((2.2 * total) / channels.length / GRID_S) + 14 * 96);
  const hours = hoursOf(problem.attended, steps);
  const frees = new Map<number, number>();
  for (const channel of channels) {
    const first = problem.channels[channel]!.taken[0];
    // In steps of four hours, rounded down: channels that come free together are looked at once.
    const free = first && first.fromS <= 0 ? Math.floor(first.toS / GRID_S / 16) * 16 : 0;
    frees.set(free, (frees.get(free) ?? 0) + 1);
  }
  let best = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const demand = kinds.reduce((sum, { count, price }) => sum + count * price, 0);
    const courses = [...frees].map(([free, n]) => ({
      free,
      n,
      ...mostWorth(kinds, hours, free, steps),
    }));
    const possible = (step: number) =>
      courses.reduce((sum, { n, worth }) => sum + n * Math.max(0, worth[step]!), 0);
    let [low, high] = [0, steps];
    if (possible(steps) < demand) return steps * GRID_S;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (possible(middle) >= demand) high = middle;
      else low = middle + 1;
    }
    best = Math.max(best, low);
    const used = new Float64Array(kinds.length);
    for (const { by, free, n } of courses)
      usedBy(kinds, by, free, low).forEach((count, k) => {
        used[k] = used[k]! + n * count;
      });
    const step = 0.25 / (1 + round / 12);
    kinds.forEach((kind, k) => {
      const off = (kind.count - used[k]!) / Math.max(kind.count, used[k]!);
      kind.price = Math.max(0.2 * kind.steps, kind.price * (1 + step * off));
    });
  }
  return Math.max(0, (best - 1) * GRID_S);
}

/**
 * A time no plan can finish before: the job that takes longest by itself, and the work of jobs
 * that share channels, all of it and what needs attended hours, over those channels.
 */
export function lowerBound(problem: PlanningProblem): LowerBound {
  let best: LowerBound = { finishS: 0, from: 'nothing is planned' };
  const raise = (finishS: number, from: string) => {
    if (Number.isFinite(finishS) && finishS > best.finishS) best = { finishS, from };
  };
  const groups = new Map<
    string,
    { channels: readonly number[]; work: Work[]; jobs: Set<number> }
  >();
  const choices = choicesOf(problem);
  const known = new Map<string, number>();
  problem.jobs.forEach((job, index) => {
    const kind = JSON.stringify([
      job.releaseS,
      job.legs.map((leg) => [
        leg.attendedShare,
        leg.restBeforeS,
        choices[index]![0]?.map((c) => leg.durationS[c]),
      ]),
    ]);
    if (!known.has(kind)) known.set(kind, alone(problem, index));
    raise(known.get(kind)!, 'the longest job, from when it can start');
    job.legs.forEach((leg, legIndex) => {
      const channels = choices[index]![legIndex]!;
      if (channels.length === 0) return;
      const key = [...channels].sort((a, b) => a - b).join(',');
      let group = groups.get(key);
      if (!group) groups.set(key, (group = { channels, work: [], jobs: new Set() }));
      group.work.push({
        durationS: leg.durationS[channels[0]!]!,
        attendedShare: leg.attendedShare,
      });
      group.jobs.add(job.id);
    });
  });
  for (const { channels } of groups.values()) {
    // All work that can go nowhere but on these channels.
    const inside = new Set(channels);
    const work = [...groups.values()].flatMap((other) =>
      other.channels.every((channel) => inside.has(channel)) ? other.work : [],
    );
    raise(
      leastTime(work, problem, channels),
      'the work over the channels that can take it, in the hours it can start',
    );
    raise(
      leastTime(
        work.filter(({ attendedShare }) => attendedShare > 0),
        problem,
        channels,
      ),
      'the attended hours',
    );
  }
  return best;
}
