import type {
  AgentOrders,
  AgentPoll,
  Assignment,
  BatchAnswer,
  RecordBatch,
  RunCommand,
  RunEvent,
  RunRecord,
} from '@dusk-tally/core/bench';

/** An app that keeps what an agent hands in, and notices what is missing, double or changed. */
export class MemoryApp {
  readonly stored = new Map<number, RunRecord[]>();
  readonly troubles: string[] = [];
  readonly phases = new Map<number, string>();
  readonly waiting: Assignment[] = [];
  readonly commands: RunCommand[] = [];
  readonly drops: AgentOrders['drop'] = [];
  silenceLimitS = 60;
  /** Called before each request; throw to be out of reach. */
  before: () => Promise<void> | void = () => undefined;
  /** Loses the answer to the next batch: the agent has to send it again. */
  loseAnswer = false;

  async poll(poll: AgentPoll): Promise<AgentOrders> {
    await this.before();
    for (const { run, phase } of poll.runs) this.phases.set(run, phase);
    for (const id of poll.done) {
      const at = this.commands.findIndex((command) => command.id === id);
      if (at >= 0) this.commands.splice(at, 1);
    }
    const known = new Set(poll.runs.map(({ run }) => run));
    return {
      start: this.waiting.filter(({ run }) => !known.has(run) && !this.stored.has(run)),
      commands: [...this.commands],
      drop: [...this.drops],
      silenceLimitS: this.silenceLimitS,
    };
  }

  async records({ records }: RecordBatch): Promise<BatchAnswer> {
    await this.before();
    const acked = new Map<number, number>();
    for (const record of records) {
      const list = this.stored.get(record.run) ?? [];
      this.stored.set(record.run, list);
      const known = list[record.seq - 1];
      if (known) {
        if (JSON.stringify(known) !== JSON.stringify(record))
          this.troubles.push(
            `Run ${record.run}, ${record.seq}: ${JSON.stringify(known)} became ${JSON.stringify(record)}.`,
          );
      } else if (record.seq !== list.length + 1)
        this.troubles.push(`Run ${record.run}: ${record.seq} came after ${list.length}.`);
      else list.push(record);
      acked.set(record.run, list.length);
    }
    if (this.loseAnswer) {
      this.loseAnswer = false;
      throw new Error('The line broke.');
    }
    return { acked: [...acked].map(([run, seq]) => ({ run, seq })), refused: [] };
  }

  events(run: number): RunEvent[] {
    return (this.stored.get(run) ?? []).flatMap((record) =>
      record.kind === 'event' ? [record.event] : [],
    );
  }

  readings(run: number) {
    return (this.stored.get(run) ?? []).flatMap((record) =>
      record.kind === 'reading' ? [record] : [],
    );
  }

  ended(run: number): Extract<RunEvent, { event: 'ended' }> | undefined {
    return this.events(run).find((event) => event.event === 'ended') as
      Extract<RunEvent, { event: 'ended' }> | undefined;
  }
}

/** Waits until something holds. @throws after `mostMs`. */
export async function until(holds: () => boolean, mostMs = 20_000, what = 'it'): Promise<void> {
  const started = performance.now();
  while (!holds()) {
    if (performance.now() - started > mostMs) throw new Error(`Waited ${mostMs} ms for ${what}.`);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}
