import { ACTIVE_RUN_STATES } from '@dusk-tally/core/bench';
import { dayIn } from '@dusk-tally/core/units';
import type { CellArrivalRow, LotRow, NewRow, RestRow, Transaction } from '@dusk-tally/store';
import { restInput, takeOffInput } from '../inputs';
import { labTimeZone, openLot } from '../lots';
import { type Lab, LabError, procedure } from '../shared';
import { chargeEnds } from './charge-ends';
import { protocolNamed } from './protocols';
import { flowedThrough } from './flowed-through';

/** A rest nothing was read of yet. */
const NOTHING_READ: RestRow['detail'] = {
  counted: 0,
  days: null,
  voltageV: null,
  lossV: null,
  z: null,
  isFastLoser: null,
  refused: null,
  slope: null,
};

/** Looks at a cell that need no reason: the one of its protocol, and the second of two. */
const FREE_LOOKS = 2;
/** A charge may end so much after now by two clocks, ms. */
const CLOCKS_APART_MS = 120_000;
const LONGEST_MS = 400 * 86_400_000;

/** Numbers of some of the cells, for words. */
const numbersOf = (cells: readonly { id: number; number: string }[], ids: readonly number[]) => {
  const named = cells.filter(({ id }) => ids.includes(id)).map(({ number }) => number);
  return `${named.slice(0, 6).join(', ')}${named.length > 6 ? ` and ${named.length - 6} more` : ''}`;
};

/** What must not stand among others: found dangerous, or to be discarded (handbook, Safety). */
const isSetApart = ({ gate }: Pick<CellArrivalRow, 'gate'>): boolean =>
  gate === 'quarantined' || gate === 'discard' || gate === 'recovering';

/**
 * The look a cell is laid down for: the second of a protocol of two where its last rest asked for it,
 * else the first.
 */
const lookOf = (last: RestRow | undefined, protocol: RestRow['protocol']): number =>
  last?.outcome === 'secondLook' &&
  last.protocol.name === protocol.name &&
  protocol.looks.length > 1
    ? 1
    : 0;

/** Refuses cells that rest already, that must stand apart, or that are looked at again without a reason. */
async function refuse(
  lab: Lab,
  cells: readonly { id: number; number: string }[],
  before: readonly RestRow[],
  reason: string,
  transaction: Transaction,
): Promise<void> {
  const ids = cells.map(({ id }) => id);
  const resting = before.filter(({ endedAt }) => endedAt === null).map(({ cellId }) => cellId);
  if (resting.length > 0)
    throw new LabError(
      'duplicate',
      `${numbersOf(cells, resting)}: on the shelf already. Take it off first, or leave it out.`,
      { field: 'cellIds' },
    );
  const arrivals = await lab.store.arrivals.cells.find({ cellId: ids }, { transaction });
  const apart = arrivals.filter(isSetApart).map(({ cellId }) => cellId);
  if (apart.length > 0)
    throw new LabError(
      'notAllowed',
      `${numbersOf(cells, apart)}: set apart for what was found; it does not stand among others.`,
      { field: 'cellIds' },
    );
  const busy = await lab.store.bench.runs.find(
    { cellId: ids, state: ACTIVE_RUN_STATES },
    { transaction, columns: ['cellId'] },
  );
  if (busy.length > 0)
    throw new LabError(
      'conflict',
      `${numbersOf(
        cells,
        busy.map(({ cellId }) => cellId),
      )}: on the bench now. Wait until the run has ended.`,
      { field: 'cellIds' },
    );
  const looks = (cellId: number) =>
    before.filter((rest) => rest.cellId === cellId && !rest.takenOff).length;
  const again = ids.filter((id) => looks(id) >= FREE_LOOKS);
  if (again.length > 0 && reason.length < 3)
    throw new LabError(
      'invalid',
      `${numbersOf(cells, again)}: looked at twice already. A cell is named by what it lost and not tested until it passes; say why it is looked at once more.`,
      { field: 'reason' },
    );
}

/** One moment for all of them, as it was typed. @throws LabError where it cannot be. */
function fullAsSaid(lab: Lab, cellIds: readonly number[], fullAt: Date): Map<number, Date> {
  const age = lab.now().getTime() - fullAt.getTime();
  if (age < -CLOCKS_APART_MS || age > LONGEST_MS)
    throw new LabError('invalid', 'Expected a moment of the last year at which the charge ended.', {
      field: 'fullAt',
    });
  return new Map(cellIds.map((id) => [id, fullAt]));
}

/** Nobody here charged a cell before it came. @throws LabError */
async function requireHere(
  lab: Lab,
  { arrivedOn }: LotRow,
  full: readonly Date[],
  transaction: Transaction,
): Promise<void> {
  const timeZone = await labTimeZone(lab, transaction);
  if (arrivedOn === null || full.every((at) => dayIn(timeZone, at) >= arrivedOn)) return;
  throw new LabError(
    'invalid',
    `Expected a charge that ended here: these cells arrived on ${arrivedOn}.`,
    { field: 'fullAt' },
  );
}

/** Each cell’s own, by its last run. @throws LabError naming those whose last run did not leave them full. */
async function fullByRuns(
  lab: Lab,
  cells: readonly { id: number; number: string }[],
  transaction: Transaction,
): Promise<Map<number, Date>> {
  const ids = cells.map(({ id }) => id);
  const full = await chargeEnds(lab, ids, transaction);
  const others = ids.filter((id) => !full.has(id));
  if (others.length > 0)
    throw new LabError(
      'invalid',
      `${numbersOf(cells, others)}: the last run did not end with a charge. Say when it was full, or leave it out.`,
      { field: 'fromRun' },
    );
  return full;
}

/** Cells laid down, and the rests they began. */
export interface Laid {
  laid: number;
  restIds: number[];
}

/** Lays full cells on the shelf, to be read on their day (handbook, chapter 4). */
export const layToRest = procedure({
  role: 'technician',
  input: restInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<Laid> => {
    const { lotId, reason } = input;
    const cellIds = [...new Set(input.cellIds)];
    const lot = await openLot(lab, lotId, transaction, true);
    const cells = await lab.store.cells.find({ id: cellIds, lotId }, { transaction });
    if (cells.length !== cellIds.length)
      throw new LabError('notFound', 'Some of these cells are not of this lot.');
    const full = input.fromRun
      ? await fullByRuns(lab, cells, transaction)
      : fullAsSaid(lab, cellIds, new Date(input.fullAt));
    await requireHere(lab, lot, [...full.values()], transaction);
    const { rests } = lab.store.resting;
    const before = await rests.find({ cellId: cellIds }, { transaction, order: [['id', 'ASC']] });
    await refuse(lab, cells, before, reason, transaction);
    const flowed = await flowedThrough(lab, cellIds, transaction);
    const used = cellIds.filter((id) => flowed.get(id)?.some((at) => at > full.get(id)!));
    if (used.length > 0)
      throw new LabError(
        'invalid',
        `${numbersOf(cells, used)}: a run began after that moment. Expected the end of the last charge.`,
        { field: 'fullAt' },
      );
    const protocol = await protocolNamed(lab, input.protocol, transaction);
    await rests.insertMany(
      cellIds.map((cellId): NewRow<RestRow> => ({
        lotId,
        cellId,
        protocol,
        look: lookOf(
          before.filter((rest) => rest.cellId === cellId && !rest.takenOff).at(-1),
          protocol,
        ),
        fullAt: full.get(cellId)!,
        reason: reason || null,
        takenOff: false,
        outcome: null,
        endedAt: null,
        detail: NOTHING_READ,
        personId: actor.id,
        at: lab.now(),
      })),
      transaction,
    );
    changed({ what: 'rests', lotId, cellIds });
    await audit({
      act: 'laid cells to rest',
      subjectType: 'lot',
      subjectId: lotId,
      after: {
        cells: cells.map(({ number }) => number),
        protocol: `${protocol.name}, version ${protocol.version}`,
        fullAt: input.fromRun ? 'as their last runs say' : input.fullAt,
        ...(reason && { reason }),
      },
    });
    const made = await rests.find(
      { cellId: cellIds, endedAt: null },
      { transaction, columns: ['id'] },
    );
    return { laid: cellIds.length, restIds: made.map(({ id }) => id) };
  },
});

/** Takes cells off the shelf before their rest is over; what was read of them stays. */
export const takeFromShelf = procedure({
  role: 'technician',
  input: takeOffInput,
  run: async ({ lab, input, transaction, audit, changed }): Promise<{ taken: number }> => {
    const { rests } = lab.store.resting;
    const open = await rests.find(
      { id: input.restIds, endedAt: null },
      { transaction, forUpdate: true },
    );
    if (open.length === 0)
      throw new LabError(
        'conflict',
        'None of these is on the shelf any more. Nothing was changed.',
      );
    for (const { id, version } of open)
      await rests.update(
        { takenOff: true, endedAt: lab.now(), reason: input.reason, version: version + 1 },
        { id },
        transaction,
      );
    for (const lotId of new Set(open.map((rest) => rest.lotId)))
      changed({
        what: 'rests',
        lotId,
        cellIds: open.filter((rest) => rest.lotId === lotId).map(({ cellId }) => cellId),
      });
    await audit({
      act: 'took cells off the shelf',
      subjectType: 'rest',
      subjectId: open
        .map(({ id }) => id)
        .join(', ')
        .slice(0, 40),
      after: { rests: open.map(({ id }) => id), reason: input.reason },
    });
    return { taken: open.length };
  },
});
