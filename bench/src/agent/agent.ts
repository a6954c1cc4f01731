import { randomUUID } from 'node:crypto';
import {
  alarm,
  type AgentOrders,
  type Assignment,
  type RunCommand,
  type RunRecord,
} from '@dusk-tally/core/bench';
import { AgentRun } from './agent-run';
import { type AppClient, AppRefusal } from './app-client';
import { Journal, type JournalEntry } from './journal';
import { type ChannelDriver, type ChannelDrivers, scpiDrivers } from '../drivers';
import { InstrumentFault } from '../scpi';

export interface AgentSettings {
  name: string;
  app: Pick<AppClient, 'poll' | 'records'>;
  /** Folder of the journal. */
  folder: string;
  /** Bench seconds for each real one. */
  speed: number;
  /** Real time between looks at the instruments, ms. */
  tickMs?: number;
  pollMs?: number;
  /** Longest an instrument is waited for, ms. */
  timeoutMs?: number;
  /** How channels are driven; by SCPI where nothing is said. */
  drivers?: ChannelDrivers;
  /** Is told of each run before anything of it begins, once its instruments are off. */
  beforeRun?: (assignment: Assignment) => Promise<void>;
  log?: (line: string) => void;
  /** The wall clock, ms since 1970. */
  wallMs?: () => number;
}

/** Records in one batch, most. */
const MOST_RECORDS = 2000;
/** Readings without an answer before it counts as silence (handbook, chapter 2, “Watching”). */
const SILENT_INTERVALS = 3;
/** Ticks between looks at the instruments’ error queues. */
const ERRORS_EVERY = 15;
/** The wall clock was moved when it goes another way than the steady one by this much, s. */
const WALL_MOVED_S = 5;

/**
 * The bench agent (handbook, chapter 2): looks after the instruments of its channels, holds their
 * limits by itself, and loses nothing. Everything that is read is on disk before anything follows.
 */
export class Agent {
  readonly instance = randomUUID();
  readonly runs = new Map<number, AgentRun>();
  private readonly allDrivers: ChannelDrivers;
  private readonly drivers = new Map<number, ChannelDriver>();
  private readonly journal: Journal;
  private done: number[] = [];
  private carriedOut = new Set<number>();
  private batch = 0;
  private contactAtMs = performance.now();
  private silenceLimitS = 120;
  private ticks = 0;
  private timers: NodeJS.Timeout[] = [];
  private sending: Promise<void> | null = null;
  private polling: Promise<void> | null = null;
  private isStopped = false;
  /** The disk took no more: what comes is sent, but not kept. */
  private diskFailed: string | null = null;
  private readonly tickMs: number;

  private readonly wallMs: () => number;
  private readonly clockOffMs: number;
  /** Of the wall clock above the steady one when last looked at, ms. */
  private wallOffMs: number;

  constructor(private readonly settings: AgentSettings) {
    this.wallMs = settings.wallMs ?? Date.now;
    this.clockOffMs = this.wallOffMs = this.wallMs() - performance.now();
    this.tickMs = settings.tickMs ?? 1000;
    this.allDrivers =
      settings.drivers ?? scpiDrivers(settings.timeoutMs ?? Math.min(1000, this.tickMs * 0.9));
    const { journal, entries } = Journal.open(settings.folder);
    this.journal = journal;
    this.recover(entries);
  }

  /**
   * Time since 1970, ms, by the steady clock: set by the wall clock when the agent starts, and not
   * moved by what happens to that one afterwards.
   */
  private nowMs(): number {
    return this.clockOffMs + performance.now();
  }

  /** Says where the computer’s clock was moved; runs go on by the steady one. */
  private watchWallClock(): void {
    const wallOffMs = this.wallMs() - performance.now();
    const movedS = (wallOffMs - this.wallOffMs) / 1000;
    if (Math.abs(movedS) < WALL_MOVED_S) return;
    this.wallOffMs = wallOffMs;
    const way = movedS > 0 ? 'ahead' : 'back';
    const text = `The clock of the bench computer went ${way} by ${Math.abs(movedS).toFixed(0)} s; time is counted by its steady clock.`;
    for (const run of this.runs.values())
      if (run.state.phase !== 'ended')
        void this.note(run, run.say('clockJump', text, run.timeS(this.nowMs())));
  }

  private log(line: string): void {
    this.settings.log?.(line);
  }

  private recover(entries: readonly JournalEntry[]): void {
    for (const entry of entries) {
      if (entry.t === 'begin') {
        const { assignment, startedAtMs } = entry;
        this.adopt(new AgentRun(assignment, startedAtMs, this.settings.speed));
      } else if (entry.t === 'record') {
        this.runs.get(entry.record.run)?.replay(entry.record);
      } else if (entry.t === 'ack') this.runs.get(entry.run)?.confirm(entry.seq);
      else if (entry.t === 'forget') this.forget(entry.run);
      else
        this.adopt(
          new AgentRun(entry.assignment, entry.startedAtMs, this.settings.speed).restore(entry),
        );
    }
    for (const run of this.runs.values()) {
      const missing = run.recovered();
      void this.write(missing);
      this.log(
        `Run ${run.run} of ${run.assignment.cell} goes on at number ${run.seq}, ${run.state.phase}.`,
      );
    }
  }

  private adopt(run: AgentRun): void {
    this.runs.set(run.run, run);
    this.drivers.set(run.run, this.allDrivers.of(run.assignment.channel.wiring));
  }

  private forget(run: number): void {
    this.runs.delete(run);
    this.drivers.delete(run);
  }

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
    this.journal.close();
  }

  /** Writes entries; where the disk takes no more, every run is ended safely. */
  private async write(entries: readonly JournalEntry[]): Promise<void> {
    if (this.diskFailed !== null) return;
    try {
      await this.journal.append(entries);
      for (const entry of entries)
        if (entry.t === 'record') {
          const run = this.runs.get(entry.record.run);
          if (run) run.durable = Math.max(run.durable, entry.record.seq);
        }
    } catch (error) {
      if (this.isStopped) return;
      this.diskFailed = (error as Error).message;
      this.log(`The journal cannot be written: ${this.diskFailed}`);
      const now = this.nowMs();
      for (const run of this.runs.values())
        run.end(
          `The journal cannot be written: ${this.diskFailed}`,
          run.timeS(now),
          alarm('journalFull', this.diskFailed),
        );
    }
  }

  private async note(run: AgentRun, entries: JournalEntry[]): Promise<void> {
    await this.write(entries);
    await this.bringToSetting(run);
  }

  private async bringToSetting(run: AgentRun): Promise<void> {
    const set = run.pendingSet;
    if (!set) return;
    try {
      await this.drivers.get(run.run)?.apply(set);
      if (run.pendingSet === set) run.pendingSet = null;
    } catch (error) {
      const { message } = error as Error;
      this.log(`${run.assignment.channel.title}: ${message}`);
      if (!(error instanceof InstrumentFault && error.kind === 'refused') || set.kind === 'off')
        return;
      // It answers, but not as it should: nothing is to flow until somebody looked.
      await this.note(
        run,
        run.pause(message, run.timeS(this.nowMs()), alarm('instrumentError', message)),
      );
    }
  }

  private tick(): void {
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
    if (this.journal.wantsCompacting && this.diskFailed === null)
      this.journal.compact([...this.runs.values()].map((run) => run.snapshot()));
    this.send();
  }

  /** One look at a run’s instruments. */
  private async look(run: AgentRun): Promise<void> {
    if (run.state.phase === 'ended') {
      await this.bringToSetting(run);
      return;
    }
    const driver = this.drivers.get(run.run)!;
    if (run.pendingSet) await this.bringToSetting(run);
    const now = performance.now();
    run.heardAtMs ??= now;
    try {
      const [shown, temperatureC] = await Promise.all([
        driver.read(run.set),
        driver.temperatureC(this.tickMs * 0.8),
      ]);
      run.heardAtMs = performance.now();
      run.missed = 0;
      const { clockS, ...watched } = shown;
      const timeS = run.timeS(this.nowMs());
      await this.note(run, [
        ...run.reading({ ...watched, temperatureC, timeS }),
        ...run.clockShown(clockS, timeS, run.assignment.channel.title),
      ]);
      if (run.asks) await this.fetchAnswer(run, driver);
      if ((this.ticks + run.run) % ERRORS_EVERY === 0) await this.watchErrors(run, driver);
    } catch (error) {
      await this.notHeard(run, (error as Error).message);
    }
  }

  private async notHeard(run: AgentRun, message: string): Promise<void> {
    this.log(`${run.assignment.channel.title}: ${message}`);
    run.missed++;
    const silentMs = performance.now() - (run.heardAtMs ?? 0);
    const everyMs = Math.max(this.tickMs, run.assignment.everyMs);
    if (run.state.phase === 'ended') return;
    // Asked that often without an answer, not only long ago: this process may have stood still itself.
    if (run.missed < SILENT_INTERVALS || silentMs < SILENT_INTERVALS * everyMs) return;
    const text = `Nothing was read for ${(silentMs / 1000).toFixed(0)} s: ${message}`;
    await this.note(run, run.end(text, run.timeS(this.nowMs()), alarm('noReadings', text)));
  }

  /** Fetches what a measuring step asks for, where an instrument can give it. */
  private async fetchAnswer(run: AgentRun, driver: ChannelDriver): Promise<void> {
    const value =
      run.asks === 'acResistance'
        ? await driver.acMohm()
        : run.asks === 'openCircuitVoltage'
          ? run.state.last!.voltageV
          : run.asks === 'temperature'
            ? run.state.last!.temperatureC
            : null;
    if (value !== null) await this.note(run, run.answer(value, run.timeS(this.nowMs())));
  }

  private async watchErrors(run: AgentRun, driver: ChannelDriver): Promise<void> {
    const errors = await driver.errors();
    if (errors.length === 0) return;
    const text = errors.length > 1 ? `${errors[0]} and ${errors.length - 1} more` : errors[0]!;
    await this.note(run, run.pause(text, run.timeS(this.nowMs()), alarm('instrumentError', text)));
  }

  /** Without the app for too long, every run is ended safely. */
  private watchSilenceOfApp(): void {
    const silentS = (performance.now() - this.contactAtMs) / 1000;
    if (silentS < this.silenceLimitS) return;
    const now = this.nowMs();
    for (const run of this.runs.values()) {
      if (run.state.phase === 'ended') continue;
      const text = `The app was out of reach for ${silentS.toFixed(0)} s; the limit is ${this.silenceLimitS} s.`;
      void this.note(run, run.end(text, run.timeS(now), alarm('appSilent', text)));
    }
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
    if (this.runs.has(assignment.run) || this.diskFailed !== null) return;
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
      run.pendingSet = first;
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
    while (!this.isStopped) {
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
