import { type ChannelLimits, type ChannelWiring } from '@dusk-tally/core/bench';
import type { ChannelBenchRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, LabError, procedure } from '../shared';

const size = z.number('Expected a number.').min(0, 'Expected 0 or more.').finite();
const above0 = z.number('Expected a number.').positive('Expected a number above 0.').finite();
const address = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9.-]+:\d{1,5}$/, 'Expected an address such as 192.168.1.20:5025.')
  .nullable();
const input = z.object({ address: address.unwrap(), input: z.int().min(1).max(256) }).nullable();

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
  .refine(({ minA, maxA, minV, maxV }) => minA < maxA && minV < maxV, {
    message: 'Expected the lower end of each range below its upper one.',
  }) satisfies z.ZodType<ChannelLimits>;

export const channelWiring = z.object({
  load: address,
  supply: address,
  thermometer: input,
  resistanceMeter: input,
}) satisfies z.ZodType<ChannelWiring>;

/** Keeps what a channel can do, and where its instruments answer. */
export const setChannelLimits = procedure({
  role: 'lead',
  input: z.object({
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
  }),
  run: async ({
    lab,
    input: { channelId, version, ...after },
    transaction,
    audit,
  }): Promise<void> => {
    const { bench, meters } = lab.store;
    found(await meters.channels.one({ id: channelId }, { transaction }), 'That channel');
    if (after.wiring && !after.wiring.load && !after.wiring.supply)
      throw new LabError(
        'invalid',
        'Expected the address of a load or a supply, or no wiring at all.',
      );
    const before = await bench.channels.one({ channelId }, { transaction, forUpdate: true });
    if (before && before.version !== version)
      throw new LabError('conflict', 'Someone changed this channel meanwhile. Reload to see how.');
    const row: ChannelBenchRow = {
      channelId,
      ...after,
      updatedAt: lab.now(),
      version: (before?.version ?? 0) + 1,
    };
    await bench.channels.replaceMany([row], transaction);
    await audit({
      act: 'set channel’s limits',
      subjectType: 'channel',
      subjectId: channelId,
      before,
      after,
    });
  },
});

/** Limits of a tester’s channel nobody wrote down: what a small lab’s usual load can do. */
export const UNKNOWN_LIMITS: ChannelLimits = {
  minA: 0.02,
  maxA: 30,
  maxW: 150,
  minV: 0,
  maxV: 60,
  canCharge: false,
  canDischarge: true,
  wires: 4,
  currentGainPct: 1,
  currentOffsetA: 0.02,
  voltageGainPct: 0.5,
  voltageOffsetV: 0.01,
  resolutionV: 0.001,
  resolutionA: 0.001,
  reportS: 10,
  leadPlusMohm: 2,
  leadMinusMohm: 2,
  fuseA: null,
  holderA: null,
  enforcesCutoff: true,
};
