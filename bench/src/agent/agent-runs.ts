import { alarm } from '@dusk-tally/core/bench';
import { type ChannelDriver, type ChannelDrivers, scpiDrivers } from '../drivers';
import { InstrumentFault } from '../scpi';
import { AgentRun } from './agent-run';
import type { AgentSettings } from './agent-settings';
import { Journal, type JournalEntry } from './journal';

/** The runs an agent has, on disk before anything follows from them, and the drivers of their channels. */
export abstract class AgentRuns {
  readonly runs = new Map<number, AgentRun>();
  protected readonly allDrivers: ChannelDrivers;
  protected readonly drivers = new Map<number, ChannelDriver>();
  protected readonly journal: Journal;
  protected isStopped = false;
  /** The disk took no more: what comes is sent, but not kept. */
  protected diskFailed: string | null = null;
  protected readonly tickMs: number;
  protected readonly wallMs: () => number;
  /** Of the wall clock above the steady one when last looked at, ms. */
  protected wallOffMs: number;
  private readonly clockOffMs: number;

  constructor(protected readonly settings: AgentSettings) {
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
  protected nowMs(): number {
    return this.clockOffMs + performance.now();
  }

  protected log(line: string): void {
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

  protected adopt(run: AgentRun): void {
    this.runs.set(run.run, run);
    this.drivers.set(run.run, this.allDrivers.of(run.assignment.channel.wiring));
  }

  protected forget(run: number): void {
    this.runs.delete(run);
    this.drivers.delete(run);
  }

  /** Writes entries; where the disk takes no more, every run is ended safely. */
  protected async write(entries: readonly JournalEntry[]): Promise<void> {
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

  protected async note(run: AgentRun, entries: JournalEntry[]): Promise<void> {
    await this.write(entries);
    await this.bringToSetting(run);
  }

  protected async bringToSetting(run: AgentRun): Promise<void> {
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
}
