import {
  type CellLoss,
  countedReadings,
  type LossAgainstLot,
  lossesAgainstLot,
  outcomeOfLook,
  type RestReading,
  selfDischargeSlope,
} from '@dusk-tally/core/resting';
import type { ReadingRow, RestRow, Transaction } from '@dusk-tally/store';
import { flowedThrough } from './flowed-through';
import { type Derivation, figureRow, hashOf, type Touched } from '../derived';
import { loadClaim } from '../lots';
import type { Change, Lab } from '../shared';

const DAY_MS = 86_400_000;
/** A voltage typed again within so long mends the one before it, ms. */
const MENDS_WITHIN_MS = 30 * 60_000;
/** Short-term repeatability of a hand meter (house), V. */
const REPEATS_WITHIN_V = 0.001;

/** A rest with what was read of it, in order of time. */
interface ReadRest {
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
  const due = stood.findIndex(({ at }) => daysOf(at) >= dueDays);
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
function lossOf({ rest, readings }: ReadRest): CellLoss | null {
  const counted = countedReadings(readings);
  const [first, last] = [counted[0], counted.at(-1)];
  if (!first || !last || counted.length < 2) return null;
  return {
    cell: String(rest.id),
    lossV: first.voltageV - last.voltageV,
    fromDays: first.days,
    toDays: last.days,
    readOn: rest.fullAt.getTime() / DAY_MS + last.days,
  };
}

/** The state of a rest from its readings and how it stands in its lot. */
function stateOf(
  { rest, rows, readings }: ReadRest,
  against: LossAgainstLot | undefined,
  loss: CellLoss | null,
  refused: string | null,
): Pick<RestRow, 'detail' | 'outcome' | 'endedAt'> {
  const counted = countedReadings(readings);
  const slope = selfDischargeSlope(readings);
  const last = counted.at(-1);
  const isFastLoser = against?.z === undefined || against.z === null ? null : against.isFastLoser;
  const look = rest.protocol.looks[rest.look]!;
  const isDue = last !== undefined && last.days >= look.dueDays;
  const outcome = isDue
    ? outcomeOfLook(rest.protocol, look, { voltageV: last.voltageV, isFastLoser, retention: null })
    : null;
  const endedBy = outcome === null ? undefined : rows[readings.indexOf(last!)];
  return {
    outcome,
    endedAt: endedBy?.at ?? null,
    detail: {
      counted: counted.length,
      days: last?.days ?? null,
      voltageV: last?.voltageV ?? null,
      lossV: loss?.lossV ?? null,
      z: against?.z ?? null,
      isFastLoser,
      refused,
      slope: slope && { value: slope.value, standardUncertainty: slope.standardUncertainty! },
    },
  };
}

/** Keeps the slope of a rest as a figure of its cell, once for the readings it is made of. */
async function keepSlope(lab: Lab, { rest, rows, readings }: ReadRest, transaction: Transaction) {
  const slope = selfDischargeSlope(readings);
  if (!slope) return false;
  const { lotId, cellId, id, fullAt } = rest;
  const row = figureRow(
    slope,
    { lotId, cellId, runId: null, readingId: rows.at(-1)!.id, cutoffV: null },
    { rest: id, fullAt: fullAt.toISOString(), readings: rows.map((reading) => reading.clientKey) },
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

/** Rests of a lot as they stand now. */
async function refreshLot(
  lab: Lab,
  { lotId }: Touched,
  transaction: Transaction,
): Promise<Change[]> {
  const { rests } = lab.store.resting;
  const all = await rests.find({ lotId, takenOff: false }, { transaction, order: [['id', 'ASC']] });
  if (all.length === 0) return [];
  const cellIds = [...new Set(all.map(({ cellId }) => cellId))];
  const [readings, flowed, { model, profile }] = await Promise.all([
    lab.store.readings.find(
      { lotId, cellId: cellIds, kind: 'openCircuitVoltage', purpose: 'rest' },
      { transaction, order: [['id', 'ASC']] },
    ),
    flowedThrough(lab, cellIds, transaction),
    loadClaim(lab, lotId, transaction),
  ]);
  const read = all.map((rest, i) =>
    readRest(
      rest,
      all.slice(i + 1).find(({ cellId }) => cellId === rest.cellId),
      readings,
      flowed.get(rest.cellId) ?? [],
    ),
  );
  const losses = new Map(read.map((one) => [one.rest.id, lossOf(one)]));
  const resolutionV = Math.max(...read.map((one) => one.resolutionV), 10 ** -6);
  const lot = lossesAgainstLot(
    [...losses.values()].filter((loss) => loss !== null),
    model.chemistry ?? profile.chemistry,
    resolutionV,
  );
  const againstOf = new Map(lot.cells.map((one) => [Number(one.cell), one]));
  const moved: number[] = [];
  const measured: number[] = [];
  for (const one of read) {
    const { rest } = one;
    const loss = losses.get(rest.id) ?? null;
    const now = stateOf(one, againstOf.get(rest.id), loss, loss ? lot.refused : null);
    if (await keepSlope(lab, one, transaction)) measured.push(rest.cellId);
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
  reads: ['rests', 'readings', 'runs', 'cellModel'],
  makes: ['figures', 'restOutcomes'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const where of touched) made.push(...(await refreshLot(lab, where, transaction)));
    return made;
  },
};
