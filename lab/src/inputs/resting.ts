import type { RestLook, RestOutcome } from '@dusk-tally/core/resting';
import { z } from 'zod';

/** Cells laid on the shelf: since when they are full, and by which protocol they are read. */
export const restInput = z.object({
  lotId: z.int(),
  cellIds: z.array(z.int()).min(1, 'Expected at least one cell.').max(2000),
  protocol: z.string().trim().min(1, 'Expected one of the protocols.').max(60),
  /** When their charge ended. */
  fullAt: z.iso.datetime('Expected a day and time.'),
  /** Each cell’s own, as the end of its last run says; `fullAt` is not asked then. */
  fromRun: z.boolean().default(false),
  /** Asked for from the third look at a cell on. */
  reason: z.string().trim().max(400).default(''),
});

/** Cells taken off the shelf before their rest was over. */
export const takeOffInput = z.object({
  restIds: z.array(z.int()).min(1).max(2000),
  reason: z.string().trim().min(3, 'Say why, in a few words.').max(400),
});

const days = z
  .number('Expected a number.')
  .min(1, 'Expected 1 to 400 days.')
  .max(400, 'Expected 1 to 400 days.');
const volts = z
  .number('Expected a number.')
  .min(0.5, 'Expected 0.5 to 5 V.')
  .max(5, 'Expected 0.5 to 5 V.')
  .nullable();

/** Outcomes a look may end with below its voltages. */
export const OTHERWISE = [
  'keep',
  'fastLoss',
  'secondLook',
  'nonCritical',
  'reject',
] as const satisfies readonly RestOutcome[];

/** One look of a protocol as it is written. */
const look = z
  .object({
    dueDays: days,
    toleranceDays: z
      .number('Expected a number.')
      .min(0, 'Expected 0 or more.')
      .max(60, 'Expected at most 60 days.'),
    /** At or above it keeps its charge, V; null where volts say little. */
    keepV: volts,
    /** What it is then: it keeps its charge, or is named for non-critical use. */
    keepAs: z.enum(['keep', 'nonCritical']).default('keep'),
    /** At or above it is usable with fast loss, V; null for no such grade. */
    fastLossV: volts,
    otherwise: z.enum(OTHERWISE),
  })
  .refine(({ keepV, fastLossV }) => fastLossV === null || (keepV !== null && fastLossV < keepV), {
    message: 'Expected it below the voltage that keeps.',
    path: ['fastLossV'],
  });

/** A protocol as a lab writes it: a name of its own, or that of one that ships, which it replaces. */
export const restProtocolInput = z
  .object({
    name: z.string().trim().min(2, 'Expected a name.').max(60),
    judges: z.enum(['volts', 'lot']),
    looks: z.array(look).min(1).max(2),
    reason: z.string().trim().min(3, 'Say why, in a few words.').max(400),
  })
  .refine(({ judges, looks }) => judges === 'lot' || looks.every(({ keepV }) => keepV !== null), {
    message: 'Expected the voltage a cell keeps, or a protocol that goes by the lot.',
    path: ['looks', 0, 'keepV'],
  })
  .refine(({ looks }) => looks.length < 2 || looks[0]!.otherwise === 'secondLook', {
    message: 'Expected “looked at once more” before a second look.',
    path: ['looks', 0, 'otherwise'],
  })
  .refine(({ looks }) => looks[looks.length - 1]!.otherwise !== 'secondLook', {
    message: 'Expected an end: there is no look after this one.',
    path: ['looks', 0, 'otherwise'],
  });

/** A look as it is written, as a protocol keeps it. */
export const lookOf = ({
  dueDays,
  toleranceDays,
  keepV,
  keepAs,
  fastLossV,
  otherwise,
}: z.output<typeof look>): RestLook => ({
  dueDays,
  preferDays: null,
  toleranceDays,
  steps: [
    ...(keepV === null ? [] : [{ atLeastV: keepV, outcome: keepAs }]),
    ...(fastLossV === null ? [] : [{ atLeastV: fastLossV, outcome: 'fastLoss' as const }]),
  ],
  otherwise,
});
