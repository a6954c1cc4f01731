import { BREAKDOWN_CAUTION, type PackCandidate, packCandidates } from '@dusk-tally/core/arrivals';
import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import type { PackRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, isDuplicate, LabError, procedure, question } from '../shared';
import { labDay, loadClaim, numberCells, openLot, takeBatch } from '../lots';
import { MOST_CELLS } from '../inputs';

const positive = z.number().positive('Expected a number above 0.').max(1e6);

const optional = positive.nullish().transform((value) => value ?? null);

/** Enters packs that carry the same label; each gets a number of its own. */
export const addPacks = procedure({
  role: 'technician',
  input: z
    .object({
      lotId: z.int(),
      /** Made by the browser, so that a repeated send enters nothing twice. */
      clientKey: z.uuid().optional(),
      count: z.int().min(1, 'Expected at least one pack.').max(2000),
      label: z.string().trim().max(120).default(''),
      voltageV: positive,
      capacityAh: optional,
      energyWh: optional,
    })
    .refine(({ capacityAh, energyWh }) => capacityAh !== null || energyWh !== null, {
      message: 'Expected the pack’s capacity in Ah or its energy in Wh.',
    }),
  run: async ({ lab, input, transaction, audit }): Promise<PackRow[]> => {
    const { count, lotId, label, clientKey, ...printed } = input;
    const lot = await openLot(lab, lotId, transaction);
    if (clientKey && !(await takeBatch(lab, clientKey, transaction))) return [];
    const first = await lab.store.takeNumbers('pack', count, transaction);
    const packs: PackRow[] = [];
    for (let i = 0; i < count; i++)
      packs.push(
        await lab.store.arrivals.packs.insert(
          {
            lotId,
            number: `P-${String(first + i).padStart(4, '0')}`,
            label: label || null,
            ...printed,
            chemistry: null,
            series: null,
            parallel: null,
            cellAh: null,
            minutes: null,
            openedAt: null,
            openedBy: null,
          },
          transaction,
        ),
      );
    await audit({
      act: 'entered packs',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { count, label, ...printed, first: packs[0]!.number },
    });
    return packs;
  },
});

/** What a pack’s label can mean, best first. */
export const labelCandidates = question({
  role: 'technician',
  input: z.object({
    format: z.enum(['cylinder', 'prism', 'pouch']),
    voltageV: positive,
    capacityAh: optional,
    energyWh: optional,
  }),
  run: (_lab, { format, ...label }): Promise<PackCandidate[]> => {
    try {
      return Promise.resolve(packCandidates(label, format));
    } catch (error) {
      throw new LabError('invalid', (error as Error).message);
    }
  },
});

/** The caution that is asked for once a day. */
export const CAUTION_KINDS = { breakdown: BREAKDOWN_CAUTION } as const;

export type CautionKind = keyof typeof CAUTION_KINDS;

/** Takes note that a person read a caution today. */
export const acknowledge = procedure({
  role: 'technician',
  input: z.object({ kind: z.enum(['breakdown']) }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const day = await labDay(lab, transaction);
    try {
      await lab.store.arrivals.acknowledgements.insert(
        { personId: actor.id, kind: input.kind, day, at: lab.now() },
        transaction,
      );
    } catch (error) {
      if (isDuplicate(error)) return;
      throw error;
    }
    await audit({
      act: 'read caution',
      subjectType: 'caution',
      subjectId: input.kind,
      after: { day, text: CAUTION_KINDS[input.kind] },
    });
  },
});

/** Breaks a pack down: its cells get numbers and remember the pack and their parallel group. */
export const breakDownPack = procedure({
  role: 'technician',
  input: z.object({
    packId: z.int(),
    version: z.int(),
    chemistry: z.enum(CHEMISTRIES),
    series: z.int().min(1).max(400),
    parallel: z.int().min(1).max(400),
    minutes: z.number().min(0).max(10_000).nullable(),
    /** State of each cell as it came out, group by group; the rest is good. */
    states: z
      .array(
        z.object({
          group: z.int().min(1),
          place: z.int().min(1),
          harvest: z.enum(['good', 'questionable', 'dead']),
        }),
      )
      .max(2000)
      .default([]),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ cells: number }> => {
    const { store } = lab;
    const { packId, version, chemistry, series, parallel, minutes } = input;
    const pack = found(
      await store.arrivals.packs.one({ id: packId }, { transaction }),
      'That pack',
    );
    const lot = await openLot(lab, pack.lotId, transaction, true);
    const day = await labDay(lab, transaction);
    if (
      !(await store.arrivals.acknowledgements.one(
        { personId: actor.id, kind: 'breakdown', day },
        { transaction },
      ))
    )
      throw new LabError(
        'notAllowed',
        'Read and accept today’s caution for breaking down packs first.',
      );
    const { model } = await loadClaim(lab, lot.id, transaction);
    if (model.chemistry !== chemistry)
      throw new LabError(
        'invalid',
        `This build means ${chemistry} cells; the lot’s model ${model.name} is ${model.chemistry}. Correct the lot’s model first, or choose another build.`,
      );
    const groupAh = pack.capacityAh ?? pack.energyWh! / pack.voltageV;
    const updated = await store.arrivals.packs.update(
      {
        chemistry,
        series,
        parallel,
        cellAh: groupAh / parallel,
        minutes,
        openedAt: lab.now(),
        openedBy: actor.id,
        version: version + 1,
      },
      { id: packId, version, openedAt: null },
      transaction,
    );
    if (updated === 0)
      throw new LabError(
        'conflict',
        `${pack.number} was broken down by someone else meanwhile. Its cells are in the lot already.`,
      );
    const count = series * parallel;
    if (lot.quantity + count > MOST_CELLS)
      throw new LabError('invalid', `Expected at most ${MOST_CELLS} cells in a lot.`);
    const stateOf = new Map(
      input.states.map(({ group, place, harvest }) => [`${group}:${place}`, harvest]),
    );
    const cells = await numberCells(
      lab,
      lot.id,
      Array.from({ length: count }, (_, i) => {
        const groupIndex = Math.floor(i / parallel) + 1;
        return {
          packId,
          groupIndex,
          harvest: stateOf.get(`${groupIndex}:${(i % parallel) + 1}`) ?? ('good' as const),
        };
      }),
      transaction,
    );
    await store.lots.update({ quantity: lot.quantity + count }, { id: lot.id }, transaction);
    // More cells share what the box weighed: all of the lot, not only the new ones.
    changed({ what: 'cells', lotId: lot.id });
    await audit({
      act: 'broke down pack',
      subjectType: 'pack',
      subjectId: pack.number,
      after: { chemistry, series, parallel, minutes, cells: `${cells!.first} to ${cells!.last}` },
    });
    return { cells: count };
  },
});

/** Changes how a harvested cell came out: good, questionable or dead. */
export const setHarvest = procedure({
  role: 'technician',
  input: z.object({
    cellId: z.int(),
    version: z.int(),
    harvest: z.enum(['good', 'questionable', 'dead']),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { cellId, version, harvest } = input;
    const cell = found(await lab.store.cells.one({ id: cellId }, { transaction }), 'That cell');
    await openLot(lab, cell.lotId, transaction);
    const changed = await lab.store.cells.update(
      { harvest, version: version + 1 },
      { id: cellId, version },
      transaction,
    );
    if (changed === 0)
      throw new LabError('conflict', `Someone else changed ${cell.number} meanwhile. Reload.`);
    await audit({
      act: 'judged harvest',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { harvest: cell.harvest },
      after: { harvest },
    });
  },
});
