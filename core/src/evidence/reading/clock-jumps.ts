import { aheadMs } from '../../units';

/** What a jump of the time column is taken for. */
export type JumpKind = 'midnight' | 'restart' | 'hourBack' | 'hourForward' | 'setBack';

/** A row from which on so much is added to all times, in the column’s unit. */
export interface ClockJump {
  row: number;
  kind: JumpKind;
  added: number;
}

/** How the column of times is written. */
export interface ClockStyle {
  style: string;
  /** From the column to seconds. */
  factor: number;
  /** Added to scaled times for a wall clock without a zone, s since 1970; null where it shows none. */
  wallStartS: number | null;
  /** Zone of the lab, looked at beside those of Europe and America. */
  timeZone?: string;
}

const DAY_S = 86_400;
const HOUR_S = 3600;
/** Rows on each side of a jump that have to go on at the usual interval. */
const STEADY_ROWS = 3;
/** An interval goes on as usual within these times of the usual one; closely, within those. */
const LOOSE = [0.2, 3] as const;
const CLOSE = [0.9, 1.1] as const;

/** Middle of the times between rows that follow each other forward; NaN without any. */
export function usualStepOf(timeS: Float64Array): number {
  const steps: number[] = [];
  const stride = Math.max(1, Math.floor(timeS.length / 4000));
  for (let i = 1; i < timeS.length; i += stride) {
    const step = timeS[i]! - timeS[i - 1]!;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  return steps[steps.length >> 1] ?? NaN;
}

/** Whether the rows from one on, or up to it, follow each other at the usual interval. */
function isSteady(
  timeS: Float64Array,
  row: number,
  direction: 1 | -1,
  [least, most]: readonly [number, number],
): boolean {
  let intervals = 0;
  for (
    let at = row;
    at + direction >= 0 && at + direction < timeS.length && intervals < STEADY_ROWS;
    at += direction
  ) {
    const step = direction * (timeS[at + direction]! - timeS[at]!);
    if (!(step >= least && step <= most)) return false;
    intervals++;
  }
  return intervals >= STEADY_ROWS - 1;
}

let zones: readonly string[] | null = null;

/** Zones whose clocks are looked at where a wall clock jumps by an hour. */
function zonesOf(own: string | undefined): readonly string[] {
  zones ??= Intl.supportedValuesOf('timeZone').filter((name) =>
    /^(Europe|America|Atlantic)\//.test(name),
  );
  return own ? [own, ...zones] : zones;
}

/** How far a zone is ahead of UTC at an instant, s. */
const aheadS = (zone: string, atS: number) => aheadMs(zone, new Date(atS * 1000)) / 1000;

/**
 * Whether the clock of some zone is changed by an hour between two stamps.
 * @param fromS wall clock of the row before, s since 1970. @param stepS true time to the row after, s.
 */
function changesIn(
  fromS: number,
  stepS: number,
  change: 1 | -1,
  timeZone: string | undefined,
): boolean {
  return zonesOf(timeZone).some((zone) => {
    const before = aheadS(zone, fromS - aheadS(zone, fromS) - 6 * HOUR_S);
    const instantS = fromS - before;
    if (aheadS(zone, instantS) !== before) return false;
    return aheadS(zone, instantS + stepS) === before + change * HOUR_S;
  });
}

/**
 * Jumps of a clock in file order (handbook, chapter 3, *A clock set back*): past midnight, a logger
 * that began again, an hour of summer time either way, and a clock set back between steady rows.
 * Rows one or two of which stand out of order are none.
 * @param timeS as written.
 */
export function clockJumps(timeS: Float64Array, clock: ClockStyle): ClockJump[] {
  const usual = usualStepOf(timeS);
  if (!(usual > 0)) return [];
  const { style, factor, wallStartS, timeZone } = clock;
  const hour = HOUR_S / factor;
  const jumps: ClockJump[] = [];
  let added = 0;
  const jump = (row: number, kind: JumpKind, by: number) => {
    added += by;
    jumps.push({ row, kind, added });
  };
  for (let i = 1; i < timeS.length && jumps.length < 1000; i++) {
    const [before, after] = [timeS[i - 1]!, timeS[i]!];
    const step = after - before;
    const back = step < -1e-9 * Math.max(1, Math.abs(before));
    const forward = wallStartS !== null && usual * 4 < hour && step >= hour - usual;
    if (!back && !forward) continue;
    if (back && style === 'clock' && before < DAY_S && before > DAY_S - 7200 && after < 7200) {
      jump(i, 'midnight', DAY_S);
      continue;
    }
    if (back && after <= 2 * usual && after >= 0 && before > 20 * usual) {
      jump(i, 'restart', usual - step);
      continue;
    }
    // Back above where it was within two rows: only rows at the very interval are a clock’s doing.
    const isShort = back && (timeS[i + 2] ?? -Infinity) > before;
    const [least, most] = isShort ? CLOSE : LOOSE;
    const limits = [least * usual, most * usual] as const;
    if (!isSteady(timeS, i - 1, -1, limits) || !isSteady(timeS, i, 1, limits)) continue;
    const off = forward ? step - hour : step + hour;
    const isHour = Math.abs(off - usual) <= 2 * usual && off > 0;
    const wallS = wallStartS === null ? null : before * factor + wallStartS;
    const isChange =
      isHour && wallS !== null && changesIn(wallS, off * factor, forward ? 1 : -1, timeZone);
    if (forward) {
      if (isChange) jump(i, 'hourForward', -hour);
    } else if (isChange) jump(i, 'hourBack', hour);
    else jump(i, 'setBack', usual - step);
  }
  return jumps;
}

/** Times with jumps of the clock made to run on. */
export function throughJumps(timeS: Float64Array, jumps: readonly ClockJump[]): Float64Array {
  if (jumps.length === 0) return timeS;
  const running = Float64Array.from(timeS);
  jumps.forEach(({ row, added }, k) => {
    const to = jumps[k + 1]?.row ?? timeS.length;
    for (let i = row; i < to; i++) running[i] = timeS[i]! + added;
  });
  return running;
}
