import { trapezoid } from '../../units';
import {
  chargeSides,
  currentsOf,
  type HandPoint,
  type HandSetting,
  halfDigit,
  type PointField,
} from './points';

/** What does not fit about the points of a hand log. */
export interface HandDoubt {
  code:
    | 'counter-started'
    | 'counter-backwards'
    | 'counter-and-current'
    | 'current-drifts'
    | 'current-reset'
    | 'display-frozen'
    | 'power'
    | 'clock'
    | 'above-tester'
    | 'hot-cell'
    | 'hot-cable'
    | 'hot-terminal';
  /** One plain sentence or two: what, and what to do. */
  text: string;
  /** Somebody may be hurt: stop and see Safety. */
  isDanger: boolean;
  /** What to subtract from the counter, Ah, where that is offered. */
  subtractAh?: number;
}

/** A counter and a current further apart than this share are not one tester's (handbook, chapter 2). */
const APART_SHARE = 0.03;
/** Off its set value by this share a current is not steady (handbook, chapter 2, "Watching"). */
const DRIFT_SHARE = 0.02;
/** The moment the load came on is known within this, s. */
export const LOAD_ON_KNOWN_S = 60;
/** A cell on discharge, and a cable, stop here, °C; a terminal so much above its cell, K (handbook, Safety). */
const HOT_C = 60;
const HOT_TERMINAL_K = 10;

const doubt = (
  code: HandDoubt['code'],
  text: string,
  more: Partial<HandDoubt> = {},
): HandDoubt => ({
  code,
  text,
  isDanger: false,
  ...more,
});

/**
 * A counter that did not begin at zero: what it shows beyond what the current can have given since the
 * load came on. Null where the two fit.
 * @returns Ah to subtract.
 */
export function countedBefore(points: readonly HandPoint[], setting: HandSetting): number | null {
  const sides = chargeSides(points, setting);
  const i = sides.findIndex(({ counterAh, currentAh }) => counterAh !== null && currentAh !== null);
  if (i < 0) return null;
  const { counterAh, currentAh } = sides[i]!;
  const beyond = counterAh! - currentAh!;
  const amps = currentsOf(points)[i] ?? 0;
  const known =
    APART_SHARE * currentAh! +
    (amps * LOAD_ON_KNOWN_S) / 3600 +
    4 * halfDigit(points[i]!, 'shownAh');
  return beyond > known ? beyond : null;
}

function ofCounter(points: readonly HandPoint[], setting: HandSetting): HandDoubt[] {
  const before = countedBefore(points, setting);
  if (before !== null)
    return [
      doubt(
        'counter-started',
        `The counter shows ${before.toPrecision(3)} Ah more than the current can have given since the load came on: an old total? Subtract it, or correct when the load came on.`,
        { subtractAh: before },
      ),
    ];
  const sides = chargeSides(points, setting);
  const last = sides[sides.length - 1];
  const back = sides.findIndex(
    ({ counterAh }, i) => i > 0 && (counterAh ?? Infinity) < (sides[i - 1]!.counterAh ?? 0) - 1e-9,
  );
  if (back >= 0)
    return [
      doubt('counter-backwards', 'The counter went back: was it reset, or one point mistyped?'),
    ];
  if (!last || last.counterAh === null || last.currentAh === null) return [];
  const limit =
    APART_SHARE * last.currentAh +
    ((currentsOf(points)[points.length - 1] ?? 0) * LOAD_ON_KNOWN_S) / 3600 +
    4 * halfDigit(points[points.length - 1]!, 'shownAh');
  return Math.abs(last.counterAh - last.currentAh) <= limit
    ? []
    : [
        doubt(
          'counter-and-current',
          `Counter ${last.counterAh.toPrecision(4)} Ah, current over time ${last.currentAh.toPrecision(4)} Ah: one of them does not tell the truth. Look at the points, and whether it paused.`,
        ),
      ];
}

function ofCurrent(points: readonly HandPoint[]): HandDoubt[] {
  const read = points.filter(({ values, isStop }) => !isStop && values.shownA !== undefined);
  const [first, last] = [read[0], read[read.length - 1]];
  if (!first || !last || first === last) return [];
  const from = first.values.shownA!;
  const to = last.values.shownA!;
  const digits = 2 * Math.max(halfDigit(first, 'shownA'), halfDigit(last, 'shownA'));
  if (Math.abs(to - from) <= DRIFT_SHARE * from + digits) return [];
  const volts = (first.values.shownV ?? 0) > 0 ? last.values.shownV! / first.values.shownV! : NaN;
  const followsVoltage = Math.abs(to / from - volts) < 0.02;
  return [
    followsVoltage
      ? doubt(
          'current-drifts',
          `The current fell with the voltage, from ${from} to ${to} A: a resistor loads the cell. Its charge counts, but it was not discharged at one rate.`,
        )
      : doubt(
          'current-reset',
          `The current went from ${from} to ${to} A: it was set anew, or the tester does not keep it.`,
        ),
  ];
}

/** Two points between which the display cannot have stood still, and did. */
function frozen(points: readonly HandPoint[]): HandDoubt[] {
  const moving: PointField[] = ['shownAh', 'shownWh', 'shownS'];
  const currents = currentsOf(points);
  for (let i = 1; i < points.length; i++) {
    const [before, now] = [points[i - 1]!, points[i]!];
    if (now.isStop) continue;
    const ah = trapezoid(currents[i - 1] ?? 0, currents[i] ?? 0, (now.atS - before.atS) / 3600);
    const same = moving.filter(
      (field) => now.values[field] !== undefined && now.values[field] === before.values[field],
    );
    const mustMove =
      (same.includes('shownAh') && ah > 6 * halfDigit(now, 'shownAh')) ||
      (same.includes('shownS') && now.atS - before.atS > 120);
    if (mustMove)
      return [
        doubt(
          'display-frozen',
          `Between two points ${((now.atS - before.atS) / 60).toFixed(0)} min apart the display did not move: it froze, or the tester stopped. See whether current still flows.`,
        ),
      ];
  }
  return [];
}

/** What one point says against itself. */
function ofOne({ values, atS, isStop }: HandPoint): HandDoubt[] {
  const { shownV, shownA, shownW, shownS, cellV, cellC, terminalC, cableC } = values;
  const found: HandDoubt[] = [];
  if (cableC !== undefined && cableC >= HOT_C)
    found.push(
      doubt('hot-cable', `The cable has ${cableC} °C: stop the discharge, and see Safety.`, {
        isDanger: true,
      }),
    );
  if (cellC !== undefined && cellC > HOT_C)
    found.push(
      doubt('hot-cell', `The cell has ${cellC} °C: stop the discharge, and see Safety.`, {
        isDanger: true,
      }),
    );
  if (terminalC !== undefined && cellC !== undefined && terminalC > cellC + HOT_TERMINAL_K)
    found.push(
      doubt(
        'hot-terminal',
        `The terminal is ${(terminalC - cellC).toFixed(0)} K warmer than its cell: suspect the contact. Stop, clean it, and clamp it anew.`,
        { isDanger: true },
      ),
    );
  if (!isStop && shownV !== undefined && cellV !== undefined && cellV < shownV - 0.02)
    found.push(
      doubt(
        'above-tester',
        `The terminals show ${cellV} V, less than the tester’s ${shownV} V: are the two swapped?`,
      ),
    );
  if (!isStop && shownV !== undefined && shownA !== undefined && shownW !== undefined) {
    const product = shownV * shownA;
    if (Math.abs(product - shownW) > 0.03 * product + 0.1)
      found.push(
        doubt(
          'power',
          `${shownV} V times ${shownA} A is ${product.toPrecision(3)} W, not ${shownW} W: which one was mistyped?`,
        ),
      );
  }
  if (shownS !== undefined && Math.abs(shownS - atS) > 180 + 0.01 * atS && !isStop)
    found.push(
      doubt(
        'clock',
        `The tester has been on for ${(shownS / 60).toFixed(0)} min by its own clock, ${(atS / 60).toFixed(0)} min by ours: correct when the load came on.`,
      ),
    );
  return found;
}

/** What the points of a hand log say against each other, danger first; of single points only the last is looked at. */
export function handDoubts(points: readonly HandPoint[], setting: HandSetting): HandDoubt[] {
  const last = points[points.length - 1];
  if (!last) return [];
  return [
    ...ofOne(last),
    ...ofCounter(points, setting),
    ...frozen(points),
    ...ofCurrent(points),
  ].sort((a, b) => Number(b.isDanger) - Number(a.isDanger));
}

/** What a new point brings up that was not there before it: asked before it is kept. */
export function newDoubts(
  point: HandPoint,
  before: readonly HandPoint[],
  setting: HandSetting,
): HandDoubt[] {
  const known = new Set(handDoubts(before, setting).map(({ code }) => code));
  const after = [...before, point].toSorted((a, b) => a.atS - b.atS);
  return [...ofOne(point), ...handDoubts(after, setting)].filter(
    ({ code }, i, all) => !known.has(code) && all.findIndex((one) => one.code === code) === i,
  );
}
