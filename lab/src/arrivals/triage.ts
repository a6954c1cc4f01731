import { RECOVERY_CAUTION, recoveryCurrentA, TRIAGE_PROTOCOLS } from '@dusk-tally/core/arrivals';
import { median, medianAbsoluteDeviation } from '@dusk-tally/core/statistics';
import type { CellArrivalRow, RecoveryEntryRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { loadClaim, openLot } from '../lots';
import { lotRules } from './refresh-arrivals';

/** Releases one cell for slow recovery. Only a lead may, one at a time, with the caution read. */
export const releaseCell = procedure({
  role: 'lead',
  input: z.object({
    cellId: z.int(),
    /** The caution as it was shown. */
    caution: z.literal(RECOVERY_CAUTION, 'Read and accept the caution first.'),
    note: z.string().trim().max(400).default(''),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { cell, arrival } = await standing(lab, input.cellId, transaction);
    if (arrival.triage !== 'waitsForLead')
      throw new LabError(
        'conflict',
        `${cell.number} does not wait for a release: ${arrival.triageReason ?? 'it has no first voltage yet.'}`,
      );
    if (arrival.worst === 'stop' || arrival.worst === 'serious')
      throw new LabError(
        'notAllowed',
        `${cell.number} has an open finding (${arrival.worst}); that comes first.`,
      );
    const { claim } = await loadClaim(lab, cell.lotId, transaction);
    const protocol = TRIAGE_PROTOCOLS[(await lotRules(lab, cell.lotId, transaction)).school];
    await lab.store.arrivals.recoveries.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        act: 'released',
        protocol: protocol.name,
        protocolVersion: protocol.version,
        mostA: recoveryCurrentA(protocol, claim.capacityAh?.value ?? null),
        minutes: null,
        temperatureC: null,
        note: input.note || null,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    changed({ what: 'recoveries', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: 'released for slow recovery',
      subjectType: 'cell',
      subjectId: cell.number,
      after: { protocol: protocol.name, version: protocol.version, caution: input.caution },
    });
  },
});

/** Notes a heat check during slow recovery, or how it ended. */
export const noteRecovery = procedure({
  role: 'technician',
  input: z.object({
    cellId: z.int(),
    act: z.enum(['heatCheck', 'recovered', 'noRise', 'heat']),
    minutes: z.number().min(0).max(100_000).nullable().default(null),
    temperatureC: z.number().min(-20).max(200).nullable().default(null),
    note: z.string().trim().max(400).default(''),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { cell, arrival } = await standing(lab, input.cellId, transaction);
    if (arrival.triage !== 'recovering')
      throw new LabError(
        'conflict',
        `${cell.number} is not in slow recovery: ${arrival.triageReason ?? 'it has no first voltage yet.'}`,
      );
    if (input.act === 'heatCheck' && (input.minutes === null || input.temperatureC === null))
      throw new LabError(
        'invalid',
        'A heat check needs the minutes since the start and the °C read.',
      );
    const protocol = TRIAGE_PROTOCOLS[(await lotRules(lab, cell.lotId, transaction)).school];
    if (input.act === 'recovered') {
      const { model } = await loadClaim(lab, cell.lotId, transaction);
      const needed = protocol.goV(model.chemistry);
      if (arrival.newestV === null || arrival.newestV < needed)
        throw new LabError(
          'invalid',
          `Type its voltage first: it was last read at ${arrival.newestV?.toFixed(3) ?? '–'} V and goes to test from ${needed.toFixed(1)} V.`,
        );
    }
    await lab.store.arrivals.recoveries.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        act: input.act,
        protocol: protocol.name,
        protocolVersion: protocol.version,
        mostA: null,
        minutes: input.minutes,
        temperatureC: input.temperatureC,
        note: input.note || null,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    changed({ what: 'recoveries', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: 'noted slow recovery',
      subjectType: 'cell',
      subjectId: cell.number,
      after: { ...input, cellId: undefined },
    });
  },
});

async function standing(lab: Lab, cellId: number, transaction: Transaction) {
  const cell = found(
    await lab.store.cells.one({ id: cellId }, { transaction, forUpdate: true }),
    'That cell',
  );
  await openLot(lab, cell.lotId, transaction);
  const arrival = found(
    await lab.store.arrivals.cells.one({ cellId }, { transaction, forUpdate: true }),
    'Its arrival',
  );
  return { cell, arrival };
}

export interface TriageLine {
  cellId: number;
  number: string;
  arrival: CellArrivalRow;
  /** Robust z of its first voltage among the lot's; null with too few. */
  z: number | null;
  recoveries: (RecoveryEntryRow & { person: string })[];
}

export interface TriageView {
  school: 'careful' | 'recovery';
  spread: {
    count: number;
    medianV: number;
    lowestV: number;
    highestV: number;
    spreadMv: number;
  } | null;
  /** Cells that do not simply go to test, and those far below the lot, lowest voltage first. */
  lines: TriageLine[];
  toTest: number;
  unread: number;
  recoverToV: number;
  goV: number;
  discardBelowV: number | null;
  mostA: number;
}

/** Cells this far below the lot's median have been losing charge, V (handbook, chapter 1). */
const LOSING_V = 0.03;

/** Where the cells of a lot go by their first voltage. */
export const triageOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<TriageView> => {
    const { store } = lab;
    const [{ model, claim }, rules, cells, arrivals, recoveries, people] = await Promise.all([
      loadClaim(lab, lotId),
      lotRules(lab, lotId),
      store.cells.find({ lotId }, { order: [['position', 'ASC']], columns: ['id', 'number'] }),
      store.arrivals.cells.find({ lotId }),
      store.arrivals.recoveries.find({ lotId }, { order: [['id', 'ASC']] }),
      store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    const byCell = new Map(arrivals.map((row) => [row.cellId, row]));
    const first = arrivals.flatMap((row) => row.firstV ?? []);
    const middle = median(first);
    const mad = medianAbsoluteDeviation(first);
    const zOf = (value: number) =>
      first.length >= 5 && mad > 0 ? (0.6745 * (value - middle)) / mad : null;
    const protocol = TRIAGE_PROTOCOLS[rules.school];
    const lines = cells.flatMap((cell): TriageLine[] => {
      const arrival = byCell.get(cell.id);
      if (!arrival || arrival.firstV === null) return [];
      const own = recoveries.filter((entry) => entry.cellId === cell.id);
      const losing = arrival.firstV < middle - LOSING_V;
      if (arrival.triage === 'test' && !losing && own.length === 0) return [];
      return [
        {
          cellId: cell.id,
          number: cell.number,
          arrival,
          z: zOf(arrival.firstV),
          recoveries: own.map((entry) => ({ ...entry, person: name.get(entry.personId) ?? '' })),
        },
      ];
    });
    return {
      school: rules.school,
      spread:
        first.length > 0
          ? {
              count: first.length,
              medianV: middle,
              lowestV: first.reduce((a, b) => Math.min(a, b)),
              highestV: first.reduce((a, b) => Math.max(a, b)),
              spreadMv: 1000 * 1.4826 * mad,
            }
          : null,
      lines: lines.sort((a, b) => a.arrival.lowestV! - b.arrival.lowestV!),
      toTest: arrivals.filter((row) => row.triage === 'test').length,
      unread: cells.length - first.length,
      recoverToV: protocol.recoverToV(model.chemistry),
      goV: protocol.goV(model.chemistry),
      discardBelowV: protocol.discardBelowV,
      mostA: recoveryCurrentA(protocol, claim.capacityAh?.value ?? null),
    };
  },
});
