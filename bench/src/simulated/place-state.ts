import type { CellParameters, CellState } from '@dusk-tally/core/simulator';

/** What is wrong with a place on the simulated bench, or with the cell in it (handbook, chapter 2). */
export interface PlaceFaults {
  /** Share of the rated capacity the cell holds. */
  capacityShare: number;
  /** Current that leaks inside it, A. */
  leakageA: number;
  /** Extra heat on charge, W per A². */
  heaterWPerA2: number;
  /** Stands above its usual voltage on charge until it was cycled, V. */
  risesEarlyV: number;
  /** Resistance of leads inside the voltage reading, mΩ: 0 with four wires. */
  leadMohm: number;
  /** The contact opens now and then: chance in each hour. */
  looseContactPerHour: number;
  /** Current reads this much high, %, and how that grows, % a day. */
  currentGainPct: number;
  driftPctPerDay: number;
  /** Charge the counter of the load holds when it is switched on, Ah. */
  counterStartAh: number;
  /** The load does not switch off at the cut-off that was set. */
  ignoresCutoff: boolean;
}

export const NO_FAULTS: PlaceFaults = {
  capacityShare: 1,
  leakageA: 0,
  heaterWPerA2: 0,
  risesEarlyV: 0,
  leadMohm: 0,
  looseContactPerHour: 0,
  currentGainPct: 0,
  driftPctPerDay: 0,
  counterStartAh: 0,
  ignoresCutoff: false,
};

/** Settings of the load and the supply that share a place. */
export interface LoadSetting {
  on: boolean;
  mode: 'current' | 'power' | 'resistor';
  currentA: number;
  powerW: number;
  ohm: number;
  cutoffV: number;
}

export interface SupplySetting {
  on: boolean;
  volts: number;
  amps: number;
}

/** What an instrument ends by itself since it was switched on; absent in a bench left by an older version. */
export interface OwnEnds {
  /** Above this voltage a supply is off, V; 0 for no limit, as in the others. */
  aboveV: number;
  ah: number;
  seconds: number;
  /** Since it was switched on, or the limit given. */
  sinceS: number;
  movedAh: number;
}

/** All that a place is at a moment; plain data. */
export interface PlaceSnapshot {
  rated: CellParameters;
  faults: PlaceFaults;
  load: LoadSetting;
  supply: SupplySetting;
  ends?: Record<'load' | 'supply', OwnEnds>;
  ambientC: number;
  counterAh: number;
  clockOffS: number;
  state: CellState;
  atS: number;
  openUntilS: number;
  cycledAh: number;
}

/** No limit is held. */
export const noEnds = (): OwnEnds => ({ aboveV: 0, ah: 0, seconds: 0, sinceS: 0, movedAh: 0 });
