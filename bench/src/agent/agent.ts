import { randomUUID } from 'node:crypto';
import type { AgentOrders, Assignment, RunCommand, RunRecord } from '@dusk-tally/core/bench';
import { AgentRun } from './agent-run';
import { AgentWatch } from './agent-watch';
import { AppRefusal } from './app-client';
import type { JournalEntry } from './journal';

/** Records in one batch, most. */
const MOST_RECORDS = 2000;

/**
 * The bench agent (handbook, chapter 2): looks after the instruments of its channels, holds their
 * limits by itself, and loses nothing. Everything that is read is on disk before anything follows.
 */
export class Agent extends AgentWatch {
  readonly instance = randomUUID();
  private done: number[] = [];
  private carriedOut = new Set<number>();
  private batch = 0;
  private timers: NodeJS.Timeout[] = [];
  private sending: Promise<void> | null = null;
  private polling: Promise<void> | null = null;

  start(): void {
    this.timers = [
      setInterval(() => this.tick(), this.tickMs),
      setInterval(() => void this.poll(), this.settings.pollMs ?? 1000),
    ];
    void this.poll();
  }

  /** Stops looking; runs go on where they are when the agent is started again. */
  async stop(): Promise<void> {
    this.isStopped = true;
    for (const timer of this.timers) clearInterval(timer);
    await Promise.allSettled([this.sending, this.polling]);
    this.allDrivers.close();
    this.journal?.close();
  }

  /**
   * For what nobody caught: outputs off and runs ended, in its journal and at the app, as far as
   * both can be reached.
   */
  async failed(error: Error): Promise<void> {
    for (const timer of this.timers) clearInterval(timer);
    await this.endAll('agentFailed', error);
    await Promise.allSettled([...this.runs.values()].map((run) => this.bringToSetting(run)));
    await this.sending;
    this.send();
    await this.sending;
  }

  private tick(): void {
    try {
      this.lookRound();
    } catch (error) {
      void this.endAll('agentFailed', error as Error).then(() => this.send());
    }
  }

  private lookRound(): void {
    this.ticks++;
    this.watchSilenceOfApp();
    this.watchWallClock();
    for (const run of this.runs.values()) {
      if (run.busy) continue;
      run.busy = true;
      void this.look(run)
        .catch((error: Error) => this.log(`Run ${run.run}: ${error.stack ?? error.message}`))
        .finally(() => {
          run.busy = false;
        });
    }
    if (this.journal?.wantsCompacting && this.diskFailed === null)
      try {
        this.journal.compact([...this.runs.values()].map((run) => run.snapshot()));
      } catch (error) {
        void this.endAll('journalFull', error as Error);
      }
    this.send();
  }

  private poll(): Promise<void> {
    this.polling ??= this.pollOnce()
      .catch((error: Error) => this.log(`App: ${error.message}`))
      .finally(() => {
        this.polling = null;
      });
    return this.polling;
  }

  private async pollOnce(): Promise<void> {
    const { name, app, speed } = this.settings;
    const done = [...this.done];
    const orders = await app.poll({
      agent: name,
      instance: this.instance,
      speed,
      runs: [...this.runs.values()].map((run) => ({
        run: run.run,
        lastSeq: run.seq,
        phase: run.state.phase,
      })),
      done,
    });
    this.contactAtMs = performance.now();
    this.done = this.done.filter((id) => !done.includes(id));
    if (!this.isStopped) await this.obey(orders);
  }

  private async obey({ start, commands, drop, silenceLimitS }: AgentOrders): Promise<void> {
    this.silenceLimitS = silenceLimitS;
    for (const assignment of start) await this.takeOn(assignment);
    for (const command of commands) await this.carryOut(command);
    for (const { run: id, reason } of drop) {
      const run = this.runs.get(id);
      if (!run || run.dropped) continue;
      this.log(`Run ${id} is dropped: ${reason}`);
      run.dropped = true;
      await this.note(run, run.end(reason, run.timeS(this.nowMs())));
      run.confirm(run.seq);
    }
    await this.forgetFinished();
  }

  private async takeOn(assignment: Assignment): Promise<void> {
    if (this.runs.has(assignment.run)) return;
    if (this.diskFailed !== null) {
      // It may be one of this agent’s that it can no longer read: its instruments may be on.
      await this.allDrivers
        .of(assignment.channel.wiring)
        .stop()
        .catch((error: Error) => this.log(error.message));
      return;
    }
    const run = new AgentRun(assignment, this.nowMs(), this.settings.speed);
    this.adopt(run);
    const driver = this.drivers.get(run.run)!;
    run.busy = true;
    try {
      // Nothing flows before the journal knows of the run.
      const entries = run.begin();
      const first = run.pendingSet;
      run.pendingSet = null;
      await this.write(entries);
      await driver
        .stop()
        .then(() => this.settings.beforeRun?.(assignment))
        .then(() => driver.prepare())
        .catch((error: Error) => this.log(error.message));
      // It may have been ended meanwhile: then everything stays off.
      if (run.state.phase !== 'ended') run.pendingSet = first;
      await this.bringToSetting(run);
    } finally {
      run.busy = false;
    }
    this.log(`Run ${assignment.run} of ${assignment.cell} begins on ${assignment.channel.title}.`);
  }

  private async carryOut(command: RunCommand): Promise<void> {
    if (this.carriedOut.has(command.id)) {
      this.done.push(command.id);
      return;
    }
    this.carriedOut.add(command.id);
    const run = this.runs.get(command.run);
    if (run) {
      const timeS = run.timeS(this.nowMs());
      const entries =
        command.kind === 'pause'
          ? run.pause(`${command.by} asked for it.`, timeS)
          : command.kind === 'resume'
            ? run.resume(timeS)
            : command.kind === 'stop'
              ? run.end(`${command.by} stopped it.`, timeS)
              : command.value !== null
                ? run.answer(command.value, timeS)
                : [];
      await this.note(run, entries);
    }
    this.done.push(command.id);
  }

  private send(): void {
    this.sending ??= this.sendAll()
      .catch((error: Error) => this.log(`App: ${error.message}`))
      .finally(() => {
        this.sending = null;
      });
  }

  private async sendAll(): Promise<void> {
    const { name, app } = this.settings;
    while (!this.isStopped && this.ending === 0) {
      const records: RunRecord[] = [];
      for (const run of this.runs.values()) {
        if (run.dropped) continue;
        for (const record of run.unsent) {
          if (records.length >= MOST_RECORDS) break;
          // What is not on disk is not known anywhere else; a failed disk keeps nothing any more.
          if (record.seq > run.durable && this.diskFailed === null) break;
          records.push(record);
        }
      }
      if (records.length === 0) return;
      const answer = await app
        .records({ agent: name, instance: this.instance, batch: ++this.batch, records })
        .catch((error: unknown) => {
          if (error instanceof AppRefusal) this.log(`The app refuses the batch: ${error.message}`);
          throw error;
        });
      this.contactAtMs = performance.now();
      const acks: JournalEntry[] = [];
      for (const { run: id, seq } of answer.acked) {
        const run = this.runs.get(id);
        if (!run || seq <= run.acked) continue;
        run.confirm(seq);
        acks.push({ t: 'ack', run: id, seq });
      }
      await this.write(acks);
      await this.forgetFinished();
      if (records.length < MOST_RECORDS) return;
    }
  }

  private async forgetFinished(): Promise<void> {
    for (const run of [...this.runs.values()])
      if (run.state.phase === 'ended' && run.unsent.length === 0 && run.pendingSet === null) {
        await this.write([{ t: 'forget', run: run.run }]);
        this.forget(run.run);
      }
  }
}
