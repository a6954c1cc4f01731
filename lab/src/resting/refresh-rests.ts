import {
  type CellLoss,
  countedReadings,
  FIRST_COUNTED_DAY,
  type LossAgainstLot,
  lossesAgainstLot,
  outcomeOfLook,
  type RestReading,
  selfDischargeSlope,
} from '@dusk-tally/core/resting';
import type { Figure } from '@dusk-tally/core/units';
import type { ReadingRow, RestRow, Transaction } from '@dusk-tally/store';
import { chargeLost, slowCurvesOf } from './charge-lost';
import { flowedThrough } from './flowed-through';
import { type Retention, retentionsOf } from './retention';
import { type Derivation, figureRow, hashOf, type Touched } from '../derived';
import { loadClaim } from '../lots';
import type { Change, Lab } from '../shared';

const DAY_MS = 86_400_000;
/** A voltage typed again within so long mends the one before it, ms. */
const MENDS_WITHIN_MS = 30 * 60_000;
/** Short-term repeatability of a hand meter (house), V. */
const REPEATS_WITHIN_V = 0.001;

/** A rest with what was read of it, in order of time. */
export interface ReadRest {
  rest: RestRow;
  rows: ReadingRow[];
  readings: RestReading[];
  resolutionV: number;
}

/** Readings that stand: one typed again soon mends the one before it, one taken back takes it away. */
function standing(rows: readonly ReadingRow[]): ReadingRow[] {
  const kept: ReadingRow[] = [];
  for (const row of rows) {
    const last = kept.at(-1);
    const mends = last !== undefined && row.at.getTime() - last.at.getTime() < MENDS_WITHIN_MS;
    if (row.value === null || mends) kept.pop();
    if (row.value !== null) kept.push(row);
  }
  return kept;
}

/** Moment a rest is over at the latest: the cell was laid down again, or current flowed. */
const endOf = (rest: RestRow, next: RestRow | undefined, flowed: readonly Date[]): number =>
  Math.min(
    next?.fullAt.getTime() ?? Infinity,
    ...flowed.map((at) => at.getTime()).filter((at) => at > rest.fullAt.getTime()),
  );

/** The readings of a rest, up to the first one that was due: what is read later is no part of it. */
function readRest(
  rest: RestRow,
  next: RestRow | undefined,
  all: readonly ReadingRow[],
  flowed: readonly Date[],
): ReadRest {
  const until = endOf(rest, next, flowed);
  const daysOf = (at: Date) => (at.getTime() - rest.fullAt.getTime()) / DAY_MS;
  // One held without a connection comes late and stands where it was read.
  const stood = standing(
    all
      .filter(
        ({ cellId, at }) => cellId === rest.cellId && at >= rest.fullAt && at.getTime() < until,
      )
      .toSorted((a, b) => a.at.getTime() - b.at.getTime() || a.id - b.id),
  );
  const { dueDays } = rest.protocol.looks[rest.look]!;
  // A loss takes two readings: a cell read first on its due day stands on until it is read again.
  const least = rest.protocol.judges === 'lot' ? 2 : 1;
  const due = stood.findIndex(
    ({ at }, i) =>
      daysOf(at) >= dueDays &&
      stood.slice(0, i + 1).filter((one) => daysOf(one.at) >= FIRST_COUNTED_DAY).length >= least,
  );
  const rows = due < 0 ? stood : stood.slice(0, due + 1);
  const readings = rows.map(({ at, value, decimals, temperatureC }): RestReading => ({
    days: daysOf(at),
    voltageV: value!,
    temperatureC: temperatureC ?? null,
    limitV: Math.max(10 ** -decimals, REPEATS_WITHIN_V),
  }));
  const resolutionV = Math.max(0, ...rows.map(({ decimals }) => 10 ** -decimals));
  return { rest, rows, readings, resolutionV };
}

/** What a rest lost between its first and last counted reading; null before there are two. */
function lossOf({ rest, readings, resolutionV }: ReadRest): CellLoss | null {
  const counted = countedReadings(readings);
  const [first, last] = [counted[0], counted.at(-1)];
  if (!first || !last || counted.length < 2) return null;
  return {
    cell: String(rest.id),
    lossV: first.voltageV - last.voltageV,
    fromDays: first.days,
    toDays: last.days,
    readOn: rest.fullAt.getTime() / DAY_MS + last.days,
    resolutionV: Math.max(resolutionV, 10 ** -6),
  };
}

/** The state of a rest from its readings and how it stands in its lot. */
function stateOf(
  { rest, rows, readings }: ReadRest,
  against: LossAgainstLot | undefined,
  loss: CellLoss | null,
  refused: string | null,
  { cutoffV, retention }: { cutoffV: number; retention: Retention | null },
): Pick<RestRow, 'detail' | 'outcome' | 'endedAt'> {
  const counted = countedReadings(readings);
  const slope = selfDischargeSlope(readings);
  const last = counted.at(-1);
  const isFastLoser = against?.z === undefined || against.z === null ? null : against.isFastLoser;
  const look = rest.protocol.looks[rest.look]!;
  // A protocol that asks for retention ends with the discharge that tells it.
  const isDue =
    rest.protocol.leastRetention === null
      ? last !== undefined && last.days >= look.dueDays
      : retention !== null;
  // Below the cut-off of its chemistry nothing waits for the due day.
  const low = readings.findIndex(({ voltageV }) => voltageV < cutoffV);
  const byLook = isDue
    ? outcomeOfLook(rest.protocol, look, {
        voltageV: last?.voltageV ?? 0,
        isFastLoser,
        retention,
      })
    : null;
  const outcome = low >= 0 ? ('belowCutoff' as const) : byLook;
  const endedBy = outcome === null ? undefined : rows[low >= 0 ? low : readings.indexOf(last!)];
  return {
    outcome,
    endedAt: outcome !== null && low < 0 && retention ? retention.at : (endedBy?.at ?? null),
    detail: {
      counted: counted.length,
      days: last?.days ?? null,
      voltageV: last?.voltageV ?? null,
      lossV: loss?.lossV ?? null,
      z: against?.z ?? null,
      isFastLoser,
      refused,
      ...(retention && {
        retention: {
          value: retention.value,
          standardUncertainty: retention.standardUncertainty,
        },
      }),
      slope: slope && { value: slope.value, standardUncertainty: slope.standardUncertainty! },
    },
  };
}

/** Keeps the slope of a rest, and what it means in charge, as figures of its cell: once for the readings they are made of. */
async function keepFigures(
  lab: Lab,
  { rest, rows, readings }: ReadRest,
  inCharge: readonly Figure[],
  transaction: Transaction,
) {
  const slope = selfDischargeSlope(readings);
  if (!slope) return false;
  const keep = (figure: Figure) => keepFigure(lab, { rest, rows }, figure, transaction);
  const isNew = await keep(slope);
  for (const figure of inCharge) await keep(figure);
  return isNew;
}

async function keepFigure(
  lab: Lab,
  { rest, rows }: Pick<ReadRest, 'rest' | 'rows'>,
  figure: Figure,
  transaction: Transaction,
): Promise<boolean> {
  const { lotId, cellId, id, fullAt } = rest;
  const row = figureRow(
    figure,
    { lotId, cellId, runId: null, readingId: rows.at(-1)!.id, cutoffV: null },
    {
      rest: id,
      fullAt: fullAt.toISOString(),
      readings: rows.map((reading) => reading.clientKey),
      // The slope is that of its readings alone; what it means in charge hangs on the model’s curves, too.
      ...(figure.quantity !== 'selfDischargeSlope' && { value: figure.value }),
    },
  );
  const known = await lab.store.figures.count({ cellId, inputHash: row.inputHash }, transaction);
  if (known > 0) return false;
  await lab.store.figures.insert(row, transaction);
  return true;
}

/** What is derived of a rest, to be compared. */
const plain = ({ detail, outcome, endedAt }: Pick<RestRow, 'detail' | 'outcome' | 'endedAt'>) => ({
  detail,
  outcome,
  endedAt: endedAt?.toISOString() ?? null,
});

/** Rests with what was read of each, up to the reading that ended it. @param all in the order they were laid down in. */
export async function readRests(
  lab: Lab,
  all: readonly RestRow[],
  transaction?: Transaction,
): Promise<ReadRest[]> {
  const cellIds = [...new Set(all.map(({ cellId }) => cellId))];
  const [readings, flowed] = await Promise.all([
    lab.store.readings.find(
      { cellId: cellIds, kind: 'openCircuitVoltage', purpose: 'rest' },
      { transaction, order: [['id', 'ASC']] },
    ),
    flowedThrough(lab, cellIds, transaction),
  ]);
  return all.map((rest, i) =>
    readRest(
      rest,
      all.slice(i + 1).find(({ cellId }) => cellId === rest.cellId),
      readings,
      flowed.get(rest.cellId) ?? [],
    ),
  );
}

/** What a rest said in charge when it ended. */
const inChargeOf = ({ monthly, leakageUa, monthlyRefused }: RestRow['detail']) => ({
  monthly: monthly ?? null,
  leakageUa: leakageUa ?? null,
  monthlyRefused: monthlyRefused ?? null,
});

/** Rests of a lot as they stand now. */
async function refreshLot(
  lab: Lab,
  { lotId }: Touched,
  transaction: Transaction,
): Promise<Change[]> {
  const { rests } = lab.store.resting;
  const all = await rests.find({ lotId, takenOff: false }, { transaction, order: [['id', 'ASC']] });
  if (all.length === 0) return [];
  const [read, { claim, model, profile }] = await Promise.all([
    readRests(lab, all, transaction),
    loadClaim(lab, lotId, transaction),
  ]);
  const slow = await slowCurvesOf(
    lab,
    lotId,
    claim.capacityAh?.value ?? model.ratedAh,
    transaction,
  );
  const retentions = await retentionsOf(lab, all, transaction);
  const losses = new Map(read.map((one) => [one.rest.id, lossOf(one)]));
  const lot = lossesAgainstLot(
    [...losses.values()].filter((loss) => loss !== null),
    model.chemistry ?? profile.chemistry,
  );
  const againstOf = new Map(lot.cells.map((one) => [Number(one.cell), one]));
  const moved: number[] = [];
  const measured: number[] = [];
  for (const one of read) {
    const { rest } = one;
    const loss = losses.get(rest.id) ?? null;
    const now = stateOf(one, againstOf.get(rest.id), loss, loss ? lot.refused : null, {
      cutoffV: profile.cutoffV,
      retention: retentions.get(rest.id) ?? null,
    });
    // What was told at its end stays: later discharges of the lot do not move an old rest.
    const isTold =
      rest.endedAt !== null &&
      now.endedAt?.getTime() === rest.endedAt.getTime() &&
      rest.detail.monthlyRefused !== undefined;
    const inCharge = isTold
      ? { figures: [], ...inChargeOf(rest.detail) }
      : chargeLost(countedReadings(one.readings), slow);
    const { figures, ...told } = inCharge;
    now.detail = { ...now.detail, ...told };
    if (await keepFigures(lab, one, figures, transaction)) measured.push(rest.cellId);
    if (hashOf(plain(now)) === hashOf(plain(rest))) continue;
    await rests.update({ ...now, version: rest.version + 1 }, { id: rest.id }, transaction);
    if (now.outcome !== rest.outcome) moved.push(rest.cellId);
  }
  return [
    ...(measured.length > 0 ? [{ what: 'figures' as const, lotId, cellIds: measured }] : []),
    ...(moved.length > 0 ? [{ what: 'restOutcomes' as const, lotId, cellIds: moved }] : []),
  ];
}

/** How cells stand that rest: what they lost, against their protocol and their lot. */
export const restsDerivation: Derivation = {
  name: 'rests',
  reads: ['rests', 'readings', 'runs', 'cellModel', 'chemistryProfile'],
  makes: ['figures', 'restOutcomes'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const where of touched) made.push(...(await refreshLot(lab, where, transaction)));
    return made;
  },
};
