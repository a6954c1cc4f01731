import { type AlarmCode, alarm, ownLimits } from '@dusk-tally/core/bench';
import { type ChannelDriver, type ChannelDrivers, scpiDrivers } from '../drivers';
import { InstrumentFault } from '../scpi';
import { AgentRun } from './agent-run';
import type { AgentSettings } from './agent-settings';
import { Journal, type JournalEntry, journalPath, readJournal } from './journal';

/** The runs an agent has, on disk before anything follows from them, and the drivers of their channels. */
export abstract class AgentRuns {
  readonly runs = new Map<number, AgentRun>();
  protected readonly allDrivers: ChannelDrivers;
  protected readonly drivers = new Map<number, ChannelDriver>();
  /** None where the disk did not even let it be opened. */
  protected readonly journal: Journal | null;
  protected isStopped = false;
  /** The disk took no more: what comes is sent, but not kept. */
  protected diskFailed: string | null = null;
  /** While outputs are being switched off for good nothing is said yet. */
  protected ending = 0;
  private said: string | null = null;
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
    const { journal, entries, failed } = openJournal(settings);
    this.journal = journal;
    this.recover(entries);
    // Runs known from what could be read: their instruments may be on from before.
    if (failed) void this.endAll('journalFull', failed);
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

  /** Everything off at every channel; each is tried, whatever the others say. */
  private async allOff(): Promise<void> {
    const tried = [...this.drivers.values()].map((driver) => driver.stop());
    for (const one of await Promise.allSettled(tried))
      if (one.status === 'rejected') this.log((one.reason as Error).message);
  }

  /**
   * Ends every run because this computer can no longer look after it: outputs are off before
   * anything is said. What is still on is switched off again at every look.
   */
  protected async endAll(code: AlarmCode, why: Error): Promise<void> {
    if (this.isStopped) return;
    if (code === 'journalFull') this.diskFailed ??= why.message;
    this.ending++;
    const off = this.allOff();
    const says =
      code === 'journalFull'
        ? `The journal cannot be written: ${why.message}`
        : `The agent failed: ${why.message}`;
    const now = this.nowMs();
    const entries = [...this.runs.values()].flatMap((run) =>
      run.state.phase === 'ended' ? [] : run.end(says, run.timeS(now), alarm(code, why.message)),
    );
    await off;
    this.ending--;
    if (this.said !== says) this.log(`Outputs are off. ${says}`);
    this.said = says;
    await this.write(entries);
  }

  /** Writes entries; where the disk takes no more, every run is ended safely. */
  protected async write(entries: readonly JournalEntry[]): Promise<void> {
    if (this.diskFailed !== null) return;
    try {
      await this.journal?.append(entries);
      for (const entry of entries)
        if (entry.t === 'record') {
          const run = this.runs.get(entry.record.run);
          if (run) run.durable = Math.max(run.durable, entry.record.seq);
        }
    } catch (error) {
      await this.endAll('journalFull', error as Error);
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
      const lacking = await this.drivers.get(run.run)?.apply(set, ownLimitsOf(run));
      if (run.pendingSet === set) run.pendingSet = null;
      if (lacking && lacking.length > 0) await this.sayLacking(run, lacking);
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

  /** Says once in a run what its instruments do not hold by themselves. */
  private async sayLacking(run: AgentRun, lacking: readonly string[]): Promise<void> {
    if (run.saidLacking) return;
    run.saidLacking = true;
    const text = `An instrument of ${run.assignment.channel.title} takes no limit of ${lacking.join(', ')} of its own: without the agent it stays on.`;
    await this.write(run.say('ownLimitMissing', text, run.timeS(this.nowMs())));
  }
}

/** What instruments are to end by themselves in the step a run is in. */
function ownLimitsOf({ assignment, state }: AgentRun) {
  const step = assignment.program[state.step];
  return step && ownLimits(step, assignment.limits);
}

/** The journal of an agent; where the disk fails, what could be read of it, and why. */
function openJournal({ folder, compactFrom }: AgentSettings): {
  journal: Journal | null;
  entries: JournalEntry[];
  failed: Error | null;
} {
  try {
    return { ...Journal.open(folder, compactFrom), failed: null };
  } catch (error) {
    const failed = error as Error;
    try {
      return { journal: null, entries: readJournal(journalPath(folder)).entries, failed };
    } catch {
      return { journal: null, entries: [], failed };
    }
  }
}
