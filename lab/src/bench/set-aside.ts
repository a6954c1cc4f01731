import { createHash } from 'node:crypto';
import type { BatchAnswer } from '@dusk-tally/core/bench';
import type { BenchRefusalRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, procedure, question } from '../shared';

/** Characters kept of a record that cannot be taken. */
const MOST_BODY = 4000;

interface Refused {
  run: number | null;
  seq: number | null;
  reason: string;
  body: unknown;
}

/** Records of one batch that cannot be taken: kept with their reason, each once, for a person to see. */
export class SetAside {
  private readonly refused: Refused[] = [];

  constructor(
    private readonly lab: Lab,
    private readonly agent: string,
  ) {}

  add({ run, seq, reason, body }: Refused): void {
    this.refused.push({ run, seq, reason, body });
  }

  async keep(transaction: Transaction): Promise<BatchAnswer['refused']> {
    if (this.refused.length === 0) return [];
    const { refusals } = this.lab.store.bench;
    const rows = this.refused.map(({ run, seq, reason, body }) => {
      const text = JSON.stringify(body) ?? '';
      const key = [this.agent, run, seq, text].join(' ');
      return {
        agent: this.agent,
        benchRunId: run,
        seq,
        reason: reason.slice(0, 400),
        body: text.slice(0, MOST_BODY),
        bodyHash: createHash('sha256').update(key).digest('hex'),
        at: this.lab.now(),
        seenAt: null,
        seenBy: null,
      };
    });
    const known = new Set(
      (
        await refusals.find(
          { bodyHash: rows.map(({ bodyHash }) => bodyHash) },
          { transaction, columns: ['bodyHash'] },
        )
      ).map(({ bodyHash }) => bodyHash),
    );
    const fresh = new Map(
      rows.filter(({ bodyHash }) => !known.has(bodyHash)).map((row) => [row.bodyHash, row]),
    );
    await refusals.insertMany([...fresh.values()], transaction);
    return this.refused.map(({ run, seq, reason }) => ({ run, seq, reason }));
  }
}

/** A record that was set aside, as a person sees it. */
export type RefusedView = Pick<
  BenchRefusalRow,
  'id' | 'agent' | 'benchRunId' | 'seq' | 'reason' | 'body' | 'at'
>;

const SHOWN = 100;

/** Records set aside that nobody has seen yet, newest first. */
export const refusedRecords = question({
  role: 'technician',
  input: z.object({}),
  run: (lab): Promise<RefusedView[]> =>
    lab.store.bench.refusals.find(
      { seenAt: null },
      {
        order: [['id', 'DESC']],
        limit: SHOWN,
        columns: ['id', 'agent', 'benchRunId', 'seq', 'reason', 'body', 'at'],
      },
    ),
});

/** Takes note that somebody looked at records that were set aside; they stay kept. */
export const seeRefused = procedure({
  role: 'technician',
  input: z.object({ ids: z.array(z.int()).min(1).max(SHOWN) }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const { refusals } = lab.store.bench;
    const rows = await refusals.find(
      { id: input.ids, seenAt: null },
      { transaction, forUpdate: true },
    );
    if (rows.length === 0) return;
    await refusals.update(
      { seenAt: lab.now(), seenBy: actor.id },
      { id: rows.map(({ id }) => id) },
      transaction,
    );
    await audit({
      act: 'saw records set aside',
      subjectType: 'bench',
      subjectId: 'refusals',
      after: rows.map(({ agent, benchRunId, seq, reason }) => ({ agent, benchRunId, seq, reason })),
    });
  },
});
