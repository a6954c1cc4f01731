import { alarm } from '@dusk-tally/core/bench';
import type { ChannelDriver } from '../drivers';
import type { AgentRun } from './agent-run';
import { AgentRuns } from './agent-runs';

/** Readings without an answer before it counts as silence (handbook, chapter 2, “Watching”). */
const SILENT_INTERVALS = 3;
/** Ticks between looks at the instruments’ error queues. */
const ERRORS_EVERY = 15;
/** The wall clock was moved when it goes another way than the steady one by this much, s. */
const WALL_MOVED_S = 5;

/** Looks after the instruments of the runs, and at the clocks and the app beside them. */
export abstract class AgentWatch extends AgentRuns {
  protected ticks = 0;
  protected contactAtMs = performance.now();
  protected silenceLimitS = 120;

  /** Says where the computer’s clock was moved; runs go on by the steady one. */
  protected watchWallClock(): void {
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

  /** One look at a run’s instruments. */
  protected async look(run: AgentRun): Promise<void> {
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

  protected async notHeard(run: AgentRun, message: string): Promise<void> {
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
  protected async fetchAnswer(run: AgentRun, driver: ChannelDriver): Promise<void> {
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

  protected async watchErrors(run: AgentRun, driver: ChannelDriver): Promise<void> {
    const errors = await driver.errors();
    if (errors.length === 0) return;
    const text = errors.length > 1 ? `${errors[0]} and ${errors.length - 1} more` : errors[0]!;
    await this.note(run, run.pause(text, run.timeS(this.nowMs()), alarm('instrumentError', text)));
  }

  /** Without the app for too long, every run is ended safely. */
  protected watchSilenceOfApp(): void {
    const silentS = (performance.now() - this.contactAtMs) / 1000;
    if (silentS < this.silenceLimitS) return;
    const now = this.nowMs();
    for (const run of this.runs.values()) {
      if (run.state.phase === 'ended') continue;
      const text = `The app was out of reach for ${silentS.toFixed(0)} s; the limit is ${this.silenceLimitS} s.`;
      void this.note(run, run.end(text, run.timeS(now), alarm('appSilent', text)));
    }
  }
}
