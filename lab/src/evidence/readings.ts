import {
  impossibleReading,
  READING_PURPOSE_CODES,
  type ReadingPurpose,
  usualPurpose,
} from '@dusk-tally/core/arrivals';
import { impossibleRest } from '@dusk-tally/core/resting';
import type { ReadingKind, Transaction } from '@dusk-tally/store';
import { medianOf } from '@dusk-tally/core/verdicts';
import { z } from 'zod';
import { found, type Lab, LabError, procedure, question, workerOf } from '../shared';
import { loadClaim, openLot } from '../lots';
import { figuresOf } from './reading-figures';
import { refuseUnseen } from './reading-clash';

export type { ReadingKind };

export const readingsInput = z.object({
  lotId: z.int(),
  instrumentId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  readings: z
    .array(
      z
        .object({
          cellId: z.int(),
          kind: z.enum([
            'acResistance',
            'openCircuitVoltage',
            'capacity',
            'mass',
            'thickness',
            'energyBehindInverter',
            'energyShown',
            'currentShown',
            'durationShown',
          ]),
          /** Null takes the earlier reading back. */
          value: z.number('Expected a number.').finite().nullable(),
          decimals: z.int().min(0).max(9),
          /** Single readings; their median must be the value. */
          repeats: z
            .array(z.number().finite())
            .min(2)
            .max(9)
            .nullish()
            .transform((value) => value ?? null),
          /** Where the probes of an AC reading were. */
          probe: z
            .enum(['terminal', 'bolt', 'bar'])
            .nullish()
            .transform((value) => value ?? null),
          /** What it was taken for; arrival until the first run of its cell, then store. */
          purpose: z
            .enum(READING_PURPOSE_CODES)
            .nullish()
            .transform((value) => value ?? null),
          /** Of the cell or the room then, °C. */
          temperatureC: z
            .number('Expected a number.')
            .min(-40, 'Expected −40 to 80 °C.')
            .max(80, 'Expected −40 to 80 °C.')
            .nullish()
            .transform((value) => value ?? null),
          /** When it was read, where it was held without a connection since; now where nothing is said. */
          readAt: z.iso
            .datetime()
            .nullish()
            .transform((value) => value ?? null),
          clientKey: z.uuid(),
          /**
           * Key of the reading that stood there for who typed it, null for none: another one is not
           * typed over. Without it nothing is asked.
           */
          over: z.uuid().nullish(),
          keptDespite: z
            .string()
            .max(255)
            .nullish()
            .transform((value) => value ?? null),
        })
        // The median of an even number of readings may lie half a digit between two of them.
        .refine(
          ({ value, decimals, repeats }) =>
            value === null ||
            repeats !== null ||
            Math.abs(value * 10 ** decimals - Math.round(value * 10 ** decimals)) <
              1e-6 * Math.max(1, Math.abs(value * 10 ** decimals)),
          { message: 'has more digits than are said to be meant: which of them were read?' },
        )
        .superRefine(({ kind, value }, context) => {
          const message = value === null ? null : impossibleReading(kind, value);
          if (message) context.addIssue({ code: 'custom', message });
        })
        .refine(({ value, repeats }) => repeats === null || value === medianOf(repeats), {
          message: 'Expected the median of the single readings as value.',
        }),
    )
    .min(1)
    .max(2000),
});

/** Held no longer than this a reading has the moment it was read at, ms. */
const LONGEST_HELD_MS = 30 * 86_400_000;

/**
 * The moment of a reading: as its browser says it, but never to come, and not of long ago: a clock that
 * is wrong by so much says nothing.
 */
function momentOf(readAt: string | null, now: Date): Date {
  const at = readAt === null ? now.getTime() : Date.parse(readAt);
  const isPlausible = at <= now.getTime() && at > now.getTime() - LONGEST_HELD_MS;
  return isPlausible ? new Date(at) : now;
}

/**
 * Keeps typed readings. Sending the same ones again stores nothing twice, so a browser may
 * repeat a batch after a dropped connection.
 * @returns how many were new.
 */
export const recordReadings = procedure({
  role: 'technician',
  input: readingsInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ stored: number }> => {
    const { store } = lab;
    const instrument = input.instrumentId
      ? found(
          await store.instruments.one({ id: input.instrumentId }, { transaction }),
          'That instrument',
        )
      : null;
    // Batches of one lot come one after the other: one that is sent twice at once is kept once.
    await openLot(lab, input.lotId, transaction, true);
    const keys = input.readings.map((reading) => reading.clientKey);
    const known = new Set(
      (await store.readings.find({ clientKey: keys }, { transaction, columns: ['clientKey'] })).map(
        (row) => row.clientKey,
      ),
    );
    const fresh = input.readings.filter(
      (reading, i) => !known.has(reading.clientKey) && keys.indexOf(reading.clientKey) === i,
    );
    if (fresh.length === 0) return { stored: 0 };
    const cellIds = [...new Set(fresh.map((reading) => reading.cellId))];
    const cells = await store.cells.find({ id: cellIds, lotId: input.lotId }, { transaction });
    if (cells.length !== cellIds.length)
      throw new LabError(
        'notFound',
        'A reading names a cell that is not of this lot. None of this batch was stored.',
      );
    const now = lab.now();
    const ran = new Set(
      (await store.runs.find({ cellId: cellIds }, { transaction, columns: ['cellId'] })).map(
        ({ cellId }) => cellId,
      ),
    );
    const placed = fresh.map((reading) => ({
      ...reading,
      purpose: reading.purpose ?? usualPurpose(ran.has(reading.cellId)),
    }));
    await refuseImpossibleRests(lab, input.lotId, placed, transaction);
    await refuseUnseen(lab, input.lotId, placed, transaction);
    await store.readings.insertMany(
      placed.map(({ over: _over, readAt, ...reading }) => ({
        ...reading,
        lotId: input.lotId,
        instrumentId: input.instrumentId,
        personId: workerOf(actor),
        at: momentOf(readAt, now),
      })),
      transaction,
    );
    const stored = await store.readings.find(
      { clientKey: fresh.map((reading) => reading.clientKey) },
      { transaction },
    );
    await store.figures.insertMany(figuresOf(stored, instrument), transaction);
    changed({ what: 'readings', lotId: input.lotId, cellIds });
    const numbers = new Map(cells.map((cell) => [cell.id, cell.number]));
    await audit({
      act: 'typed readings',
      subjectType: 'lot',
      subjectId: input.lotId,
      after: fresh.map(({ cellId, kind, value, keptDespite, repeats, probe, purpose }) => ({
        cell: numbers.get(cellId),
        kind,
        value,
        ...(keptDespite ? { keptDespite } : {}),
        ...(repeats ? { repeats } : {}),
        ...(probe && probe !== 'terminal' ? { probe } : {}),
        ...(purpose ? { purpose } : {}),
      })),
    });
    return { stored: stored.length };
  },
});

/** Refuses voltages that no cell of this chemistry shows on the shelf. */
async function refuseImpossibleRests(
  lab: Lab,
  lotId: number,
  placed: readonly Pick<
    z.output<typeof readingsInput>['readings'][number],
    'kind' | 'value' | 'purpose' | 'cellId'
  >[],
  transaction: Transaction,
): Promise<void> {
  const rests = placed.filter(
    ({ kind, purpose, value }) =>
      kind === 'openCircuitVoltage' && purpose === 'rest' && value !== null,
  );
  if (rests.length === 0) return;
  const { model, profile } = await loadClaim(lab, lotId, transaction);
  const expectedV = [model.cutoffV ?? profile.cutoffV, model.chargeV ?? profile.chargeV] as const;
  for (const { value } of rests) {
    const why = impossibleRest(value!, expectedV);
    if (why) throw new LabError('invalid', `${why} Nothing was stored.`, { field: 'value' });
  }
}

/** What the entry grid shows: every cell with its newest typed readings, voltages by what they were taken for. */
export const entryGrid = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }) => {
    const [cells, readings] = await Promise.all([
      lab.store.cells.find({ lotId }, { order: [['position', 'ASC']] }),
      lab.store.evidence.latestReadings(lotId, null),
    ]);
    type Shown = {
      value: number;
      decimals: number;
      repeats: number[] | null;
      clientKey: string;
    };
    type OfCell = Partial<Record<string, Shown>>;
    const byCell = new Map<number, OfCell>();
    const voltages = new Map<number, Partial<Record<ReadingPurpose, Shown>>>();
    for (const reading of readings) {
      if (reading.value === null) continue;
      const { cellId, value, decimals, repeats, clientKey } = reading;
      const shown = { value, decimals, repeats, clientKey };
      if (reading.kind === 'openCircuitVoltage')
        voltages.set(cellId, { ...voltages.get(cellId), [reading.purpose]: shown });
      else byCell.set(cellId, { ...byCell.get(cellId), [reading.kind]: shown });
    }
    return cells.map((cell) => ({
      id: cell.id,
      number: cell.number,
      label: cell.label,
      readings: byCell.get(cell.id) ?? {},
      voltages: voltages.get(cell.id) ?? {},
    }));
  },
});
