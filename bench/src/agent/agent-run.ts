import {
  type Advance,
  type Alarm,
  alarm,
  answerCame,
  type Assignment,
  endRun,
  newRun,
  pauseRun,
  readingCame,
  resumeRun,
  type RunEvent,
  type RunRecord,
  type RunState,
  type SetPoint,
  setPointOf,
  startRun,
} from '@dusk-tally/core/bench';
import type { JournalEntry } from './journal';

/** An instrument’s clock that differs by more since the last look has jumped, s, and readings. */
const CLOCK_OFF_S = 10;
const CLOCK_OFF_INTERVALS = 5;
/** Clocks seen together for less say nothing of their pace, s. */
const LEAST_CLOCK_S = 1800;

/** A run of the agent: where it stands, and what the app does not have of it yet. */
export class AgentRun {
  state: RunState = newRun();
  seq = 0;
  acked = 0;
  /** Numbers up to this one are on disk: only they are sent. */
  durable = 0;
  /** Records the app has not confirmed, ascending. */
  unsent: RunRecord[] = [];
  set: SetPoint = { kind: 'off' };
  /** Setting the instruments have not taken yet. */
  pendingSet: SetPoint | null = null;
  busy = false;
  /** When the last reading came, on the steady clock; null before the first. */
  heardAtMs: number | null = null;
  /** Questions in a row without an answer. */
  missed = 0;
  /** Forgotten when everything is handed in. */
  dropped = false;
  readings = 0;
  /** What its instruments do not hold by themselves was said. */
  saidLacking = false;

  constructor(
    readonly assignment: Assignment,
    readonly startedAtMs: number,
    private readonly speed: number,
  ) {}

  get run(): number {
    return this.assignment.run;
  }

  private get plan() {
    return { program: this.assignment.program, limits: this.assignment.limits };
  }

  /** Bench time since the start, s, by the wall clock; never before the last reading. */
  timeS(nowMs: number): number {
    const byClock = ((nowMs - this.startedAtMs) / 1000) * this.speed;
    return Math.max(byClock, this.state.last ? this.state.last.timeS + 1e-3 : 0);
  }

  /** What the instrument’s own clock showed last, s, and when, bench s. */
  private clock: { shownS: number; timeS: number } | null = null;
  /** The same at the first look since the agent began, jumps that were told left out. */
  private clockFirst: { shownS: number; timeS: number } | null = null;

  /** How far the instrument’s clock went apart from the agent’s, as a share; null for too short a look. */
  private get clocksApart(): number | null {
    const [first, last] = [this.clockFirst, this.clock];
    if (!first || !last || last.timeS - first.timeS < LEAST_CLOCK_S) return null;
    return (last.shownS - first.shownS) / (last.timeS - first.timeS) - 1;
  }

  /**
   * Looks at the instrument’s own clock beside the agent’s.
   * @returns an alarm where it went by another time since the last look.
   */
  clockShown(shownS: number | null, timeS: number, address: string): JournalEntry[] {
    const before = this.clock;
    this.clock = shownS === null ? null : { shownS, timeS };
    this.clockFirst ??= this.clock;
    if (!before || shownS === null || this.state.phase === 'ended') return [];
    const off = shownS - before.shownS - (timeS - before.timeS);
    const mostS = Math.max(CLOCK_OFF_S, CLOCK_OFF_INTERVALS * this.assignment.limits.intervalS);
    if (Math.abs(off) <= mostS) return [];
    // What is told as a jump is no drift.
    this.clockFirst = this.clock;
    const way = off > 0 ? 'ahead' : 'back';
    return this.say(
      'clockJump',
      `The clock of ${address} went ${way} by ${Math.abs(off).toFixed(0)} s; time is counted by the agent’s own.`,
      timeS,
    );
  }

  begin(): JournalEntry[] {
    const { assignment, startedAtMs } = this;
    return [{ t: 'begin', assignment, startedAtMs }, ...this.take(startRun(this.plan), 0)];
  }

  /** A reading came. @returns what is to be on disk before anything follows from it. */
  reading(shown: {
    timeS: number;
    voltageV: number;
    currentA: number;
    temperatureC: number | null;
    counterAh: number | null;
  }): JournalEntry[] {
    const { counterAh: counted, ...watched } = shown;
    const counterAh = counted === null ? null : counted - this.assignment.counterAh;
    this.readings++;
    const record = this.number({ kind: 'reading', ...watched, counterAh, step: this.state.step });
    return [
      { t: 'record', record },
      ...this.take(readingCame(this.plan, this.state, { ...watched, counterAh }), shown.timeS),
    ];
  }

  pause(reason: string, timeS: number, cause: Alarm | null = null): JournalEntry[] {
    return this.take(pauseRun(this.state, reason, cause), timeS);
  }
  resume(timeS: number): JournalEntry[] {
    return this.take(resumeRun(this.plan, this.state, timeS), timeS);
  }
  end(reason: string, timeS: number, cause: Alarm | null = null): JournalEntry[] {
    return this.take(endRun(this.state, reason, cause), timeS);
  }
  answer(value: number, timeS: number): JournalEntry[] {
    return this.take(answerCame(this.plan, this.state, value, timeS), timeS);
  }
  /** Says an alarm that changes nothing by itself. */
  say(code: Parameters<typeof alarm>[0], text: string, timeS: number): JournalEntry[] {
    return this.take(
      { state: this.state, set: null, events: [{ event: 'alarm', ...alarm(code, text) }] },
      timeS,
    );
  }

  /** What a measuring step in work asks for; null where none does. */
  get asks(): string | null {
    const step = this.assignment.program[this.state.step];
    return this.state.phase === 'running' && step?.kind === 'measure' ? step.what : null;
  }

  private take({ state, set, events }: Advance, timeS: number): JournalEntry[] {
    const step = this.state.step;
    this.state = state;
    if (set) {
      this.set = set;
      this.pendingSet = set;
    }
    return events.map((event) => ({
      t: 'record',
      record: this.number({
        kind: 'event',
        timeS,
        step,
        event:
          event.event === 'ended' && this.clocksApart !== null
            ? { ...event, clocksApart: this.clocksApart }
            : event,
      }),
    }));
  }

  private number(record: DistributiveOmit<RunRecord, 'run' | 'seq'>): RunRecord {
    const numbered = { ...record, run: this.run, seq: ++this.seq } as RunRecord;
    this.unsent.push(numbered);
    return numbered;
  }

  /** The app has everything up to a number. */
  confirm(seq: number): void {
    if (seq <= this.acked) return;
    this.acked = seq;
    this.unsent = this.unsent.filter((record) => record.seq > seq);
  }

  /** What a journal written anew has to hold of this run. */
  snapshot(): JournalEntry {
    const { assignment, startedAtMs, state, seq, acked, unsent } = this;
    return { t: 'snapshot', assignment, startedAtMs, state, seq, acked, unsent };
  }

  /** Takes on what a snapshot says. */
  restore({ state, seq, acked, unsent }: Extract<JournalEntry, { t: 'snapshot' }>): this {
    Object.assign(this, { state, seq, acked, unsent: [...unsent], durable: seq });
    return this;
  }

  /**
   * Goes through a record that was on disk. Events a reading led to are looked for behind it.
   * What did not get there is given by `recovered`.
   */
  replay(record: RunRecord): void {
    if (record.seq <= this.seq) return;
    this.seq = this.durable = record.seq;
    this.unsent.push(record);
    if (record.kind === 'reading') {
      const { timeS, voltageV, currentA, temperatureC, counterAh } = record;
      this.adopt(
        readingCame(this.plan, this.state, { timeS, voltageV, currentA, temperatureC, counterAh }),
      );
      this.readings++;
      return;
    }
    const [expected] = this.expected;
    if (expected?.event === record.event.event) {
      this.expected.shift();
      return;
    }
    this.expected = [];
    this.adoptEvent(record.event, record.timeS);
  }

  /** Events the last records led to that are not on disk. */
  private expected: RunEvent[] = [];

  private adopt({ state, set, events }: Advance): void {
    this.state = state;
    if (set) this.set = set;
    this.expected = [...events];
  }

  private adoptEvent(event: RunEvent, timeS: number): void {
    switch (event.event) {
      case 'started':
        this.adopt(startRun(this.plan));
        this.expected.shift();
        break;
      case 'paused':
        this.adopt(pauseRun(this.state, event.reason));
        this.expected = [];
        break;
      case 'resumed':
        this.adopt(resumeRun(this.plan, this.state, timeS));
        this.expected = [];
        break;
      case 'ended':
        this.adopt(endRun(this.state, event.reason));
        this.expected = [];
        break;
      case 'measured':
        this.adopt(answerCame(this.plan, this.state, event.value, timeS));
        this.expected.shift();
        break;
      default:
        // Alarms from outside change nothing by themselves; steps come with what leads to them.
        break;
    }
  }

  /** After all records were gone through: what is still to be written, and the setting to give again. */
  recovered(): JournalEntry[] {
    const missing = this.expected;
    this.expected = [];
    const timeS = this.state.last?.timeS ?? 0;
    this.pendingSet =
      this.state.phase === 'running'
        ? setPointOf(
            this.assignment.program[this.state.step]!,
            this.state,
            this.assignment.limits.lowV,
          )
        : { kind: 'off' };
    this.set = this.pendingSet;
    return missing.map((event) => ({
      t: 'record',
      record: this.number({ kind: 'event', timeS, step: this.state.step, event }),
    }));
  }
}

type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;
