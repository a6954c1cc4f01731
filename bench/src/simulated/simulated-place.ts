import {
  advance,
  type CellParameters,
  type CellState,
  restedState,
  terminalVoltage,
} from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import {
  type LoadSetting,
  noEnds,
  type PlaceFaults,
  type PlaceSnapshot,
  type SupplySetting,
} from './place-state';

/** Longest step of the model, s. */
const STEP_S = 1;
/** A jump longer than this is made in longer steps: the bench was asleep. */
const MOST_STEPS = 20_000;
const SECONDS_A_DAY = 86_400;

/** One place: a cell between a load and a supply, with its air around it. */
export class SimulatedPlace {
  readonly load: LoadSetting = {
    on: false,
    mode: 'current',
    currentA: 0,
    powerW: 0,
    ohm: 10,
    cutoffV: 0,
  };
  readonly supply: SupplySetting = { on: false, volts: 0, amps: 0 };
  readonly ends = { load: noEnds(), supply: noEnds() };
  ambientC = 22;
  /** Charge the load’s counter shows, Ah. */
  counterAh: number;
  /** How far the load’s own clock was moved, s. */
  clockOffS = 0;
  private readonly random;
  private state: CellState;
  private cell: CellParameters;
  private atS = 0;
  private openUntilS = -1;
  private currentA = 0;
  private cycledAh = 0;

  private faults: PlaceFaults;

  constructor(
    public rated: CellParameters,
    /** Faults of the place itself, whatever cell is in it. */
    private readonly channel: PlaceFaults,
    { seed, stateOfCharge }: { seed: number; stateOfCharge: number },
  ) {
    this.random = seededRandom(seed);
    this.faults = channel;
    this.counterAh = channel.counterStartAh;
    this.state = restedState(stateOfCharge, this.ambientC);
    this.cell = this.asItIs();
  }

  private asItIs(): CellParameters {
    const { capacityShare, leakageA, heaterWPerA2 } = this.faults;
    return {
      ...this.rated,
      capacityAh: this.rated.capacityAh * capacityShare,
      leakageA,
      heaterWPerA2,
    };
  }

  /** What the load’s own clock shows, s. */
  get clockS(): number {
    return this.atS + this.clockOffS;
  }

  get stateOfCharge(): number {
    return this.state.stateOfCharge;
  }

  /** Puts another cell in, with everything off; a place keeps the faults of its channel. */
  insert(rated: CellParameters, stateOfCharge: number, capacityShare = 1, heaterWPerA2 = 0): void {
    this.load.on = this.supply.on = false;
    this.currentA = 0;
    this.cycledAh = 0;
    this.rated = rated;
    this.faults = {
      ...this.channel,
      capacityShare: this.channel.capacityShare * capacityShare,
      heaterWPerA2: this.channel.heaterWPerA2 + heaterWPerA2,
    };
    this.counterAh = this.channel.counterStartAh;
    this.state = restedState(stateOfCharge, this.ambientC);
    this.cell = this.asItIs();
  }

  snapshot(): PlaceSnapshot {
    const { rated, faults, ambientC, counterAh, clockOffS, state, atS, openUntilS, cycledAh } =
      this;
    return structuredClone({
      rated,
      faults,
      load: this.load,
      supply: this.supply,
      ends: this.ends,
      ambientC,
      counterAh,
      clockOffS,
      state,
      atS,
      openUntilS,
      cycledAh,
    });
  }

  /** Takes on what a snapshot says, the cell in it and what flows. */
  restore(snapshot: PlaceSnapshot): void {
    const { load, supply, ends, ...rest } = structuredClone(snapshot);
    Object.assign(this.ends, ends);
    Object.assign(this.load, load);
    Object.assign(this.supply, supply);
    Object.assign(this, rest);
    this.cell = this.asItIs();
    this.flow(0);
  }

  /** Lets time pass up to a moment of the bench, s. */
  advanceTo(toS: number): void {
    let left = toS - this.atS;
    if (left <= 0) return;
    const step = Math.max(STEP_S, left / MOST_STEPS);
    while (left > 1e-9) {
      const durationS = Math.min(step, left);
      this.flow(durationS);
      this.state = advance(this.cell, this.state, {
        currentA: this.currentA,
        durationS,
        ambientC: this.ambientC,
      });
      if (this.load.on) this.counterAh += (Math.max(0, -this.shownA(false)) * durationS) / 3600;
      const movedAh = (Math.abs(this.currentA) * durationS) / 3600;
      this.cycledAh += movedAh;
      this.atS += durationS;
      this.endByItself(movedAh, durationS);
      left -= durationS;
    }
    this.flow(0);
  }

  /** Switches load or supply, as instruments do by themselves; what counts since then begins anew. */
  turn(which: 'load' | 'supply', on: boolean): void {
    if (on && !this[which].on) Object.assign(this.ends[which], { sinceS: 0, movedAh: 0 });
    if (on) this[which === 'load' ? 'supply' : 'load'].on = false;
    this[which].on = on;
  }

  /** What an instrument ends by itself, whoever looks. */
  private endByItself(movedAh: number, durationS: number): void {
    for (const which of ['load', 'supply'] as const) {
      if (!this[which].on) continue;
      const ends = this.ends[which];
      ends.sinceS += durationS;
      ends.movedAh += movedAh;
      const isAbove = ends.aboveV > 0 && this.voltsAt(this.currentA) > ends.aboveV;
      const isOver = (limit: number, reached: number) => limit > 0 && reached >= limit;
      if (isAbove || isOver(ends.ah, ends.movedAh) || isOver(ends.seconds, ends.sinceS))
        this[which].on = false;
    }
  }

  /** Settles the current for the next step; the load switches itself off at its cut-off. */
  private flow(durationS: number): void {
    const chance = (this.faults.looseContactPerHour * durationS) / 3600;
    if (chance > 0 && this.random.uniform() < chance)
      this.openUntilS = this.atS + 20 + 60 * this.random.uniform();
    if (this.atS < this.openUntilS) {
      this.currentA = 0;
      return;
    }
    const open = this.voltsAt(0);
    const ohm = this.voltsAt(1) - open;
    this.currentA = 0;
    if (this.load.on) {
      const { mode, currentA, powerW, ohm: resistor } = this.load;
      const drawn =
        mode === 'current'
          ? currentA
          : mode === 'power'
            ? powerW / Math.max(0.3, open)
            : open / (resistor + ohm);
      this.currentA = -Math.min(drawn, Math.max(0, open / (ohm + this.leadOhm + 1e-4)));
      const seen = this.voltsAt(this.currentA) + this.currentA * this.leadOhm;
      if (seen <= this.load.cutoffV && this.load.cutoffV > 0 && !this.faults.ignoresCutoff) {
        this.load.on = false;
        this.currentA = 0;
      }
    } else if (this.supply.on)
      this.currentA = Math.max(
        0,
        Math.min(this.supply.amps, (this.supply.volts - open) / (ohm + this.leadOhm)),
      );
  }

  private get leadOhm(): number {
    return this.faults.leadMohm / 1000;
  }

  private voltsAt(currentA: number): number {
    const { risesEarlyV } = this.faults;
    const early =
      risesEarlyV > 0 && currentA > 0 && this.cycledAh < 2 * this.rated.capacityAh
        ? risesEarlyV *
          Math.sin(Math.PI * Math.max(0, Math.min(1, (this.state.stateOfCharge - 0.55) / 0.45)))
        : 0;
    return terminalVoltage(this.cell, this.state, currentA) + early;
  }

  /** What the instruments show for the current, A, discharge negative. */
  shownA(noisy = true): number {
    const gain =
      this.faults.currentGainPct + (this.faults.driftPctPerDay * this.atS) / SECONDS_A_DAY;
    return this.currentA === 0
      ? 0
      : this.currentA * (1 + gain / 100) + (noisy ? 0.0008 * this.random.normal() : 0);
  }

  /** What they show for the voltage, V: with two wires, with the leads. */
  shownV(): number {
    if (this.atS < this.openUntilS) return 0.002 * this.random.normal();
    return (
      this.voltsAt(this.currentA) + this.currentA * this.leadOhm + 0.0003 * this.random.normal()
    );
  }

  /** Surface temperature, °C. */
  shownC(): number {
    return this.state.temperatureC + 0.04 * this.random.normal();
  }

  /** AC resistance at the terminals, mΩ: the ohmic part and a little more. */
  acMohm(): number {
    return (
      (this.cell.r0Mohm * (1 - 0.006 * (this.state.temperatureC - 25)) + 0.01) *
      (1 + 0.001 * this.random.normal())
    );
  }
}
