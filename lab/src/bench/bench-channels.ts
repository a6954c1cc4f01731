import type { ChannelLimits, ChannelWiring } from '@dusk-tally/core/bench';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';
import { UNKNOWN_LIMITS } from './channel-limits';

/** A channel as the bench sees it. */
export interface BenchChannel {
  id: number;
  title: string;
  instrumentId: number;
  limits: ChannelLimits;
  /** Nobody wrote its limits down: those of a usual load are assumed. */
  isAssumed: boolean;
  wiring: ChannelWiring | null;
  agent: string | null;
  version: number | null;
}

/** All channels of testers, in order of name. */
export async function benchChannels(lab: Lab, transaction?: Transaction): Promise<BenchChannel[]> {
  const { instruments, meters, bench } = lab.store;
  const [testers, channels, rows] = [
    await instruments.find({ kind: 'tester' }, { transaction }),
    await meters.channels.find({}, { transaction }),
    await bench.channels.find({}, { transaction }),
  ];
  const names = new Map(testers.map(({ id, name }) => [id, name]));
  const known = new Map(rows.map((row) => [row.channelId, row]));
  const siblings = new Map<number, number>();
  for (const { instrumentId } of channels)
    siblings.set(instrumentId, (siblings.get(instrumentId) ?? 0) + 1);
  return channels
    .filter(({ instrumentId }) => names.has(instrumentId))
    .map(({ id, instrumentId, name }): BenchChannel => {
      const row = known.get(id);
      const tester = names.get(instrumentId)!;
      return {
        id,
        instrumentId,
        title: siblings.get(instrumentId) === 1 ? tester : `${tester}, ${name}`,
        limits: row?.limits ?? UNKNOWN_LIMITS,
        isAssumed: !row,
        wiring: row?.wiring ?? null,
        agent: row?.agent ?? null,
        version: row?.version ?? null,
      };
    })
    .sort((a, b) => a.title.localeCompare(b.title, undefined, { numeric: true }));
}
