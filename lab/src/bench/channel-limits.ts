import type { ChannelLimits } from '@dusk-tally/core/bench';
import type { ChannelBenchRow } from '@dusk-tally/store';
import { channelLimitsInput } from '../inputs';
import { found, LabError, procedure } from '../shared';

/** Keeps what a channel can do, and where its instruments answer. */
export const setChannelLimits = procedure({
  role: 'lead',
  input: channelLimitsInput,
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
