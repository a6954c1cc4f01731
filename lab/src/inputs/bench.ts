import type { ChannelLimits, ChannelWiring } from '@dusk-tally/core/bench';
import { z } from 'zod';
import { dayOrNone } from './day';

/** The hours somebody is there, and how long agents carry on alone. */
export const benchSettingsInput = z
  .object({
    version: z.int(),
    attendedFromMin: z.int().min(0).max(1439),
    attendedToMin: z.int().min(1).max(1440),
    attendedDays: z.array(z.int().min(1).max(7)).min(1, 'Expected at least one day.'),
    silenceLimitS: z
      .number()
      .min(10, 'Expected 10 s to an hour.')
      .max(3600, 'Expected 10 s to an hour.'),
  })
  .refine((hours) => hours.attendedFromMin < hours.attendedToMin, {
    message: 'Expected the hours to begin before they end.',
    path: ['attendedToMin'],
  });

/** The room’s temperature, °C. */
export const ambientInput = z.object({
  celsius: z
    .number('Expected a number.')
    .min(-40, 'Expected −40 to 80 °C.')
    .max(80, 'Expected −40 to 80 °C.'),
});

/** What a token of a program may. */
export const SCOPES_OF_TOKENS = ['read', 'write', 'bench'] as const;

/** A token of a program. */
export const tokenInput = z.object({
  name: z.string().trim().min(1, 'Expected what it is for.').max(80),
  scopes: z.array(z.enum(SCOPES_OF_TOKENS)).min(1, 'Expected at least one scope.'),
});

/** Cells of a lot put on the list of the bench, one job each. */
export const jobsInput = z.object({
  lotId: z.int(),
  cellIds: z.array(z.int()).min(1, 'Expected at least one cell.').max(2000),
  recipeId: z.int(),
  dueOn: dayOrNone,
  priority: z.int().min(1).max(5).default(1),
  /** Asked for where a cell was conditioned twice already. */
  reason: z.string().trim().max(400).default(''),
});

/** A job on the list: when it is due and how pressing it is, 1 to 5. */
export const jobChange = z.object({
  id: z.int(),
  version: z.int(),
  dueOn: dayOrNone,
  priority: z.int().min(1).max(5),
});

const size = z.number('Expected a number.').min(0, 'Expected 0 or more.').finite();
const above0 = z.number('Expected a number.').positive('Expected a number above 0.').finite();
const address = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9.-]+:\d{1,5}$/, 'Expected an address such as 192.168.1.20:5025.')
  .refine((text) => Number(text.split(':')[1]) <= 65_535, 'Expected a port of at most 65535.')
  .nullable();
const input = z.object({ address: address.unwrap(), input: z.int().min(1).max(256) }).nullable();

/** What a channel can do. */
export const channelLimits = z
  .object({
    minA: size,
    maxA: above0.max(2000),
    maxW: above0.max(100_000),
    minV: size,
    maxV: above0.max(1000),
    canCharge: z.boolean(),
    canDischarge: z.boolean(),
    wires: z.union([z.literal(2), z.literal(4)]),
    currentGainPct: size.max(50),
    currentOffsetA: size,
    voltageGainPct: size.max(50),
    voltageOffsetV: size,
    resolutionV: size,
    resolutionA: size,
    reportS: above0.max(3600),
    leadPlusMohm: size.max(1000),
    leadMinusMohm: size.max(1000),
    fuseA: above0.max(5000).nullable(),
    holderA: above0.max(5000).nullable(),
    enforcesCutoff: z.boolean(),
  })
  .refine(({ minA, maxA }) => minA < maxA, {
    message: 'Expected the least current below the most.',
    path: ['minA'],
  })
  .refine(({ minV, maxV }) => minV < maxV, {
    message: 'Expected the least voltage below the most.',
    path: ['minV'],
  }) satisfies z.ZodType<ChannelLimits>;

/** Where a channel’s instruments answer. */
export const channelWiring = z.object({
  load: address,
  supply: address,
  thermometer: input,
  resistanceMeter: input,
}) satisfies z.ZodType<ChannelWiring>;

/** What a channel can do, and where its instruments answer; no wiring where none is driven. */
export const channelLimitsInput = z.object({
  channelId: z.int(),
  version: z.int().nullish(),
  limits: channelLimits,
  wiring: channelWiring.nullable(),
  agent: z
    .string()
    .trim()
    .max(40)
    .nullish()
    .transform((name) => name || null),
});
