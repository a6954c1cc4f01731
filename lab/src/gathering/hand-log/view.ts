import { enoughIsKnown, type Enough } from '@dusk-tally/core/bench';
import {
  cellVoltage,
  chargeNow,
  chargeSides,
  type ChargeSides,
  currentsOf,
  cutoffAdvice,
  handDoubts,
  type HandDoubt,
  handForecast,
  type HandForecast,
  type HandLead,
  handLead,
  type HandPoint,
  handResult,
  type HandSetting,
} from '@dusk-tally/core/evidence';
import { expandedUncertainty, type WholeCurve } from '@dusk-tally/core/units';
import type { BenchRunRow, HandLogRow, HandPointRow } from '@dusk-tally/store';
import { z } from 'zod';
import { claimedRateIt } from '../../bench';
import { loadClaim } from '../../lots';
import { found, type Lab, question } from '../../shared';
import { curvesOf, pointsOf, settingOf, shapeRunsOf } from './load';

/** A point as it is listed. */
export interface HandPointView {
  id: number;
  at: string;
  atS: number;
  values: HandPointRow['values'];
  decimals: HandPointRow['decimals'];
  isStop: boolean;
  keptDespite: string | null;
  by: string;
  takenBack: boolean;
}

/** What a hand log gives so far. */
export interface SoFar {
  ah: number | null;
  expandedAh: number | null;
  bound: 'exact' | 'atLeast' | 'atMost';
  fromAh: number | null;
  toAh: number | null;
  steps: string[];
  /** Why it gives nothing yet. */
  reason: string | null;
}

/** What points of a hand log say together. */
export interface HandSays {
  points: HandPoint[];
  sides: ChargeSides[];
  /** Charge against the cell’s own voltage, for the picture. */
  line: { ah: number; v: number }[];
  lead: HandLead;
  doubts: HandDoubt[];
  forecast: HandForecast | null;
  advice: string | null;
  soFar: SoFar;
  enough: Enough;
}

/** A rate further off the claim’s than this share says nothing of it before it is carried there. */
const LIKE_RATE_SHARE = 0.1;

/** Whether a current is the one the claim is made at, near enough to compare without carrying. */
export const isLikeRate = (amps: number | null, claimedA: number | null): boolean =>
  claimedA !== null &&
  amps !== null &&
  amps > 0 &&
  Math.abs(amps - claimedA) <= LIKE_RATE_SHARE * claimedA;

/** Points as charge against the cell’s own voltage: the leads’ drop is added to what a display shows. */
function lineOf(
  points: readonly HandPoint[],
  sides: readonly ChargeSides[],
  lead: HandLead,
  setting: HandSetting,
): HandSays['line'] {
  const currents = currentsOf(points);
  return points.flatMap((point, i) => {
    const volts = cellVoltage(point, currents[i] ?? null, lead, setting);
    const ah = sides[i]!.counterAh ?? sides[i]!.currentAh;
    return volts === null || ah === null ? [] : [{ ah, v: volts.v }];
  });
}

/** Everything the points of a log say, by the curves of its lot. */
export function saysOf(
  points: HandPoint[],
  setting: HandSetting,
  { setA, curves, claimedAh, claimedA, guardFactor }: SaysBy,
): HandSays {
  const result = handResult(points, setting, curves);
  const { figure } = result;
  const lead = handLead(points, setting);
  const sides = chargeSides(points, setting);
  const last = points[points.length - 1];
  const amps = currentsOf(points).at(-1) ?? null;
  const volts = last ? cellVoltage(last, amps, lead, setting) : null;
  const given = chargeNow(points, setting);
  const isOn = figure?.bound === 'atLeast' && !last?.isStop;
  return {
    points,
    sides,
    line: lineOf(points, sides, lead, setting),
    lead,
    doubts: handDoubts(points, setting),
    forecast: handForecast(points, setting, { setA, curves }),
    advice: cutoffAdvice(points, setting, setA)?.text ?? null,
    soFar: figure
      ? {
          ah: figure.value,
          expandedAh: expandedUncertainty(figure),
          bound: figure.bound,
          fromAh: result.fromAh,
          toAh: result.toAh,
          steps: figure.steps,
          reason: null,
        }
      : {
          ah: null,
          expandedAh: null,
          bound: 'exact',
          fromAh: null,
          toAh: null,
          steps: [],
          reason: result.reason,
        },
    enough:
      isOn && volts && given !== null && claimedAh !== null && isLikeRate(amps, claimedA)
        ? enoughIsKnown(
            {
              charge: { ...figure, value: given, bound: 'exact' },
              voltageV: volts.v,
              voltageUncertaintyV: Math.hypot(volts.meterV, volts.leadV),
              currentA: amps!,
              claimedAh,
              guardFactor,
            },
            curves,
          )
        : { kind: 'open' },
  };
}

interface SaysBy {
  setA: number | null;
  curves: readonly WholeCurve[];
  claimedAh: number | null;
  /** Current the claim is made at, A, where a capacity is claimed, and its cut-off, V. */
  claimedA: number | null;
  claimCutoffV: number;
  guardFactor: number;
}

/** The hand log of a run with all it says. */
export interface HandLogView {
  benchRunId: number;
  cell: string;
  lot: string;
  lotId: number;
  isOn: boolean;
  log:
    | (Pick<HandLogRow, 'version' | 'setA' | 'setCutoffV' | 'countAtStartAh'> & {
        loadOnAt: string;
        endedAt: string | null;
      })
    | null;
  /** As the recipe says it: current, A, and cut-off, V; and the counter before the start, Ah. */
  recipe: { setA: number | null; cutoffV: number | null; counterAh: number };
  setting: HandSetting | null;
  points: HandPointView[];
  says: HandSays | null;
  claimedAh: number | null;
  now: string;
}

/** The discharge a hand run is about: its current and cut-off as the recipe says them. */
export function dischargeOf({ program }: Pick<BenchRunRow, 'program'>) {
  const step = program.find(({ kind }) => kind === 'discharge');
  return step?.kind === 'discharge'
    ? { setA: step.mode === 'current' ? step.set : null, cutoffV: step.cutoffV }
    : { setA: null, cutoffV: null };
}

/** What the points of one log are read by. */
export async function readingBy(
  lab: Lab,
  lotId: number,
  log: Pick<HandLogRow, 'endedAt' | 'shapeRuns'> | null,
): Promise<Omit<SaysBy, 'setA'>> {
  const [{ claim }, settings, runs] = await Promise.all([
    loadClaim(lab, lotId),
    lab.store.settings.one({ id: 1 }),
    log?.endedAt ? log.shapeRuns : shapeRunsOf(lab, lotId),
  ]);
  const claimedAh = claim.capacityAh?.value ?? null;
  return {
    curves: await curvesOf(lab, runs),
    claimedAh,
    claimedA: claimedAh === null ? null : claimedAh * claimedRateIt(claim),
    claimCutoffV: claim.cutoffV.value,
    guardFactor: found(settings, 'The lab’s settings').guardFactor,
  };
}

function pointView(
  log: HandLogRow,
  names: ReadonlyMap<number, string>,
): (row: HandPointRow) => HandPointView {
  return ({ id, at, values, decimals, isStop, keptDespite, personId, takenBackAt }) => ({
    id,
    at: at.toISOString(),
    atS: (at.getTime() - log.loadOnAt.getTime()) / 1000,
    values,
    decimals,
    isStop,
    keptDespite,
    by: names.get(personId) ?? '',
    takenBack: takenBackAt !== null,
  });
}

/** One hand log: its points and what they say. */
export const handLogView = question({
  role: 'technician',
  input: z.object({ benchRunId: z.int() }),
  run: async (lab, { benchRunId }): Promise<HandLogView> => {
    const { store } = lab;
    const run = found(await store.bench.runs.one({ id: benchRunId }), 'That run');
    const log = await store.hand.logs.one({ benchRunId });
    const [cell, lot, rows, people, by] = await Promise.all([
      store.cells.one({ id: run.cellId }, { columns: ['id', 'number'] }),
      store.lots.one({ id: run.lotId }, { columns: ['id', 'code'] }),
      log ? store.hand.points.find({ handLogId: log.id }, { order: [['at', 'ASC']] }) : [],
      store.people.find({}, { columns: ['id', 'name'] }),
      readingBy(lab, run.lotId, log),
    ]);
    const setting = log ? await settingOf(lab, run, log) : null;
    const recipe = dischargeOf(run);
    const names = new Map(people.map(({ id, name }) => [id, name]));
    return {
      benchRunId,
      cell: cell?.number ?? '',
      lot: lot?.code ?? '',
      lotId: run.lotId,
      isOn: run.state === 'ready' || run.state === 'running',
      log: log && {
        version: log.version,
        setA: log.setA,
        setCutoffV: log.setCutoffV,
        countAtStartAh: log.countAtStartAh,
        loadOnAt: log.loadOnAt.toISOString(),
        endedAt: log.endedAt?.toISOString() ?? null,
      },
      recipe: { ...recipe, counterAh: run.counterAh },
      setting,
      points: log ? rows.map(pointView(log, names)) : [],
      says:
        log && setting
          ? saysOf(pointsOf(log, rows), setting, { ...by, setA: log.setA ?? recipe.setA })
          : null,
      claimedAh: by.claimedAh,
      now: lab.now().toISOString(),
    };
  },
});
