import {
  decodeCurve,
  type HandPoint,
  handResult,
  type HandResult,
  type HandSetting,
  unknownTesterAccuracy,
} from '@dusk-tally/core/evidence';
import { dayIn, type WholeCurve } from '@dusk-tally/core/units';
import type { BenchRunRow, HandLogRow, HandPointRow, Transaction } from '@dusk-tally/store';
import { type BenchChannel, benchChannels } from '../../bench';
import {
  heldRuns,
  isWholeDischarge,
  type MetersThen,
  metersThen,
  testerAccuracy,
} from '../../evidence';
import { labTimeZone, loadClaim } from '../../lots';
import type { Lab } from '../../shared';

/** So many of a lot's newest whole discharges tell its shape. */
const MOST_CURVES = 40;

/** Whole discharges of a lot that are not held, newest first. */
export async function shapeRunsOf(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<number[]> {
  const [runs, held] = await Promise.all([
    lab.store.runs.find(
      { lotId },
      { columns: ['id', 'summary'], order: [['id', 'DESC']], limit: 4 * MOST_CURVES, transaction },
    ),
    heldRuns(lab, [lotId]),
  ]);
  return runs
    .filter(
      ({ id, summary }) => !held.has(id) && summary.loadOnS !== null && isWholeDischarge(summary),
    )
    .slice(0, MOST_CURVES)
    .map(({ id }) => id);
}

/** Curves of runs, as charge against voltage. */
export async function curvesOf(
  lab: Lab,
  runIds: readonly number[],
  transaction?: Transaction,
): Promise<WholeCurve[]> {
  if (runIds.length === 0) return [];
  const [runs, figures] = await Promise.all([
    lab.store.runs.find({ id: [...runIds] }, { columns: ['id', 'curve'], transaction }),
    lab.store.figures.find(
      { runId: [...runIds], quantity: 'capacity' },
      { columns: ['id', 'runId', 'standardUncertainty'], order: [['id', 'ASC']], transaction },
    ),
  ]);
  const u = new Map(figures.map((row) => [row.runId, row.standardUncertainty]));
  return runs.flatMap(({ id, curve }) => {
    const decoded = decodeCurve(new Uint8Array(curve)).curve;
    return decoded.chargeAh.length < 2
      ? []
      : [
          {
            chargeAh: decoded.chargeAh,
            voltageV: decoded.voltageV,
            standardUncertaintyAh: u.get(id) ?? null,
          },
        ];
  });
}

/** Points that were not taken back, in order of time. */
export const pointsOf = (log: HandLogRow, rows: readonly HandPointRow[]): HandPoint[] =>
  rows
    .filter(({ takenBackAt }) => takenBackAt === null)
    .toSorted((a, b) => a.at.getTime() - b.at.getTime() || a.id - b.id)
    .map(({ at, values, decimals, isStop }) => ({
      atS: (at.getTime() - log.loadOnAt.getTime()) / 1000,
      values,
      decimals,
      isStop,
    }));

/** What hand logs are read against, loaded once for all of them. */
export interface HandGround {
  channels: BenchChannel[];
  meters: MetersThen;
  timeZone: string;
}

export async function handGround(lab: Lab, transaction?: Transaction): Promise<HandGround> {
  const [channels, meters, timeZone] = await Promise.all([
    benchChannels(lab, transaction),
    metersThen(lab, transaction),
    labTimeZone(lab, transaction),
  ]);
  return { channels, meters, timeZone };
}

/** What a hand log is read against, as it was on its day. */
export function settingBy(
  { channels, meters, timeZone }: HandGround,
  claimCutoffV: number,
  run: Pick<BenchRunRow, 'channelId' | 'expectedAh' | 'ambientC'>,
  log: Pick<HandLogRow, 'loadOnAt' | 'setA' | 'setCutoffV' | 'countAtStartAh'>,
): HandSetting {
  const channel = channels.find(({ id }) => id === run.channelId);
  const instrument = channel
    ? meters.instrument(channel.instrumentId, dayIn(timeZone, log.loadOnAt))
    : null;
  return {
    cutoffV: claimCutoffV,
    setCutoffV: log.setCutoffV,
    setA: log.setA,
    wires: channel?.limits.wires ?? 2,
    // Leads nobody measured are not those of a usual load.
    leadMohm:
      channel && !channel.isAssumed
        ? channel.limits.leadPlusMohm + channel.limits.leadMinusMohm
        : 0,
    countAtStartAh: log.countAtStartAh,
    expectedAh: run.expectedAh,
    ambientC: run.ambientC,
    accuracy: testerAccuracy(instrument) ?? unknownTesterAccuracy(log.setA ?? run.expectedAh / 2),
  };
}

/** The same for one hand log, with all it needs. */
export async function settingOf(
  lab: Lab,
  run: Pick<BenchRunRow, 'channelId' | 'lotId' | 'expectedAh' | 'ambientC'>,
  log: Pick<HandLogRow, 'loadOnAt' | 'setA' | 'setCutoffV' | 'countAtStartAh'>,
  transaction?: Transaction,
): Promise<HandSetting> {
  const { claim } = await loadClaim(lab, run.lotId, transaction);
  return settingBy(await handGround(lab, transaction), claim.cutoffV.value, run, log);
}

/** What a hand log gives by the curves its result is read by. */
export async function resultOf(
  lab: Lab,
  log: HandLogRow,
  transaction?: Transaction,
): Promise<HandResult> {
  const [run, rows, curves] = await Promise.all([
    lab.store.bench.runs.one({ id: log.benchRunId }, { transaction }),
    lab.store.hand.points.find({ handLogId: log.id }, { transaction }),
    curvesOf(lab, log.shapeRuns, transaction),
  ]);
  return handResult(pointsOf(log, rows), await settingOf(lab, run!, log, transaction), curves);
}
