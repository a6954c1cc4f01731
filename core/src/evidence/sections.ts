import { chargeBetween, chargeStepAh } from './charge-steps';
import { holesWithin, isUncounted } from './holes';
import { currentDeadBandA, voltageMovement } from './reading/sign-current';
import type { Trace } from './trace';

/** What happens in a section of a trace. */
export type SectionKind = 'rest' | 'charge' | 'discharge';

/** A stretch of a trace with current one way, or none (handbook, chapter 3, "Sections"). */
export interface Section {
  kind: SectionKind;
  /** First and last row, inclusive. */
  fromIndex: number;
  toIndex: number;
  fromS: number;
  /** Time of the last row; for a rest, of the load that ends it. */
  toS: number;
  /** Charge moved, Ah, not negative; of holes what may be counted. */
  ah: number;
  /** Stretches without readings inside it; `ah` null where nothing says what flowed. */
  holes?: { fromS: number; toS: number; ah: number | null }[];
}

interface Run {
  kind: SectionKind;
  from: number;
  to: number;
}

/** Rows of one kind in a row; single odd rows between longer like ones are joined. */
function joinBlips(runs: Run[]): Run[] {
  const joined: Run[] = [];
  for (let i = 0; i < runs.length; i++) {
    const run = runs[i]!;
    const before = joined[joined.length - 1];
    const after = runs[i + 1];
    const isBlip =
      run.from === run.to &&
      before &&
      after &&
      before.kind === after.kind &&
      before.to - before.from >= 3 &&
      after.to - after.from >= 3;
    if (isBlip) {
      before.to = after.to;
      i++;
    } else if (before?.kind === run.kind) before.to = run.to;
    else joined.push({ ...run });
  }
  return joined;
}

function runsFromCurrent(currentA: Float64Array, referenceCurrentA?: number): Run[] {
  const deadBand = currentDeadBandA(currentA, referenceCurrentA);
  const kindOf = (sign: number): SectionKind =>
    sign === 0 ? 'rest' : sign < 0 ? 'discharge' : 'charge';
  const signAt = (value: number) => (value > deadBand ? 1 : value < -deadBand ? -1 : 0);
  const runs: Run[] = [];
  let from = 0;
  let sign = signAt(currentA[0]!);
  for (let i = 1; i < currentA.length; i++) {
    const value = currentA[i]!;
    const here = value > deadBand ? 1 : value < -deadBand ? -1 : 0;
    if (here === sign) continue;
    runs.push({ kind: kindOf(sign), from, to: i - 1 });
    from = i;
    sign = here;
  }
  if (currentA.length > 0) runs.push({ kind: kindOf(sign), from, to: currentA.length - 1 });
  return joinBlips(runs);
}

/** Stretches in which the charge counter moves; a pause is five times the usual wait for a tick. */
function runsFromCounter(trace: Trace, counterAh: Float64Array): Run[] {
  const ticks: number[] = [];
  for (let i = 1; i < counterAh.length; i++) if (counterAh[i] !== counterAh[i - 1]) ticks.push(i);
  if (ticks.length === 0) return [{ kind: 'rest', from: 0, to: counterAh.length - 1 }];
  const waits = ticks
    .slice(1)
    .map((tick, i) => tick - ticks[i]!)
    .sort((a, b) => a - b);
  const pause = 5 * (waits[waits.length >> 1] ?? 1);
  const active: Run[] = [];
  for (const tick of ticks) {
    const last = active[active.length - 1];
    if (last && tick - last.to <= pause) last.to = tick;
    else active.push({ kind: 'discharge', from: tick - 1, to: tick });
  }
  const runs: Run[] = [];
  let next = 0;
  for (const run of active) {
    if (run.from > next) runs.push({ kind: 'rest', from: next, to: run.from - 1 });
    const falling = voltageMovement(trace.voltageV, run.from, run.to) <= 0;
    runs.push({ ...run, kind: falling ? 'discharge' : 'charge' });
    next = run.to + 1;
  }
  if (next < counterAh.length) runs.push({ kind: 'rest', from: next, to: counterAh.length - 1 });
  return runs;
}

/**
 * Cuts a trace into charge, rest and discharge.
 * @param referenceCurrentA It in A, when the rated capacity is known; sets the dead band.
 */
export function cutSections(trace: Trace, referenceCurrentA?: number): Section[] {
  const { timeS, currentA, counterAh } = trace;
  const runs = currentA
    ? runsFromCurrent(currentA, referenceCurrentA)
    : counterAh
      ? runsFromCounter(trace, counterAh)
      : [];
  return runs.map((run, i) => {
    const next = runs[i + 1];
    return {
      kind: run.kind,
      fromIndex: run.from,
      toIndex: run.to,
      fromS: timeS[run.from]!,
      toS: run.kind === 'rest' && next ? timeS[next.from]! : timeS[run.to]!,
      ...(run.kind === 'rest' ? { ah: 0 } : chargeOf(trace, run)),
    };
  });
}

/** Charge of a stretch under load, its holes by the rule (handbook, chapter 3). */
function chargeOf(trace: Trace, { kind, from, to }: Run): Pick<Section, 'ah' | 'holes'> {
  const ah = chargeBetween(trace, from, to);
  const holes = holesWithin(trace, [{ from, to }], 0, kind === 'charge' ? -1 : 1);
  if (holes.length === 0) return { ah };
  return {
    ah: holes.reduce((sum, hole) => sum - chargeStepAh(trace, hole.row) + hole.ah, ah),
    holes: holes.map(({ fromS, toS, witness, ah: counted }) => ({
      fromS,
      toS,
      ah: isUncounted(witness) ? null : counted,
    })),
  };
}

/**
 * Current outside the holes, A: what flowed while there were readings over their time.
 * @example meanCurrentOf([{ ah: 20, fromS: 0, toS: 3600 }, { ah: 5, fromS: 4000, toS: 4900 }]) // 20
 */
export function meanCurrentOf(sections: readonly Section[]): number | null {
  let [ah, seconds] = [0, 0];
  for (const section of sections) {
    ah += section.ah;
    seconds += section.toS - section.fromS;
    for (const hole of section.holes ?? []) {
      ah -= hole.ah ?? 0;
      seconds -= hole.toS - hole.fromS;
    }
  }
  return seconds > 0 ? (ah * 3600) / seconds : null;
}

/** The discharge a capacity is read from: sections with no charge between them. */
export interface Discharge {
  sections: Section[];
  /** Time of load-on, s. */
  loadOnS: number;
  /** Charge of all its sections, Ah. */
  ah: number;
}

/** Shortest discharge that is a capacity test rather than a pulse, s. */
const SHORTEST_DISCHARGE_S = 120;

/** The discharge with the most charge; null when the log holds only pulses or none. */
export function mainDischarge(sections: Section[]): Discharge | null {
  const groups: Section[][] = [[]];
  for (const section of sections) {
    if (section.kind === 'charge') groups.push([]);
    else if (section.kind === 'discharge') groups[groups.length - 1]!.push(section);
  }
  const candidates = groups
    .map(withoutLeadingPulses)
    .filter((group) => group.length > 0)
    .map((group) => ({
      sections: group,
      loadOnS: group[0]!.fromS,
      ah: group.reduce((sum, section) => sum + section.ah, 0),
    }));
  return candidates.sort((a, b) => b.ah - a.ah)[0] ?? null;
}

/** A group counts only if some section of it is long; pulses in it then count as charge taken. */
function withoutLeadingPulses(group: Section[]): Section[] {
  return group.some((section) => section.toS - section.fromS >= SHORTEST_DISCHARGE_S) ? group : [];
}
