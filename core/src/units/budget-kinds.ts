/** What is known of one kind of component of an uncertainty budget. */
export interface BudgetKindFacts {
  /** As shown. */
  words: string;
  /** What to do about it (handbook, chapter 3), as a clause. */
  improve: string;
  /** How another run would be done that need not have it; absent where every run has it. */
  again?: string;
  /** Whether it differs from run to run, or acts alike on every run of a channel. */
  acts: 'scatters' | 'alike';
  /** It says where the discharge ended: it acts at each end of a window, at the cut-off voltage. */
  atEnd?: true;
}

const LOG_FASTER_AT_END = 'log faster near the cut-off';
const CHECK_VOLTAGE = 'check the tester’s voltage against a reference';
const NO_HOLE = 'find out why the log has a hole, and run again without one';

/**
 * Kinds of component of uncertainty budgets, one table for everybody who asks what a component is:
 * advice, what another run need not have, what acts at an end (handbook, chapter 3).
 */
export const BUDGET_KINDS = {
  currentGain: {
    words: 'current gain',
    improve: 'calibrate the tester’s current, or describe it with a narrower accuracy',
    acts: 'alike',
  },
  currentOffset: {
    words: 'current offset',
    improve: 'zero the current reading before the run, or test at a higher current',
    acts: 'alike',
  },
  current: { words: 'current', improve: 'calibrate the tester’s current', acts: 'alike' },
  timeBase: {
    words: 'time base',
    improve: 'check the tester’s clock against a good one',
    acts: 'alike',
  },
  loadOn: {
    words: 'load-on instant',
    improve: 'log faster around load-on',
    again: 'logged faster around load-on',
    acts: 'scatters',
  },
  pause: {
    words: 'pause',
    improve: 'run it again without a pause',
    again: 'without a pause',
    acts: 'scatters',
  },
  cutoffVoltage: {
    words: 'cut-off voltage',
    improve: `${CHECK_VOLTAGE} and enter its table`,
    acts: 'alike',
    atEnd: true,
  },
  endBetweenSamples: {
    words: 'end between samples',
    improve: LOG_FASTER_AT_END,
    again: 'logged faster near the cut-off',
    acts: 'scatters',
    atEnd: true,
  },
  bendAtCutoff: {
    words: 'bend at the cut-off',
    improve: LOG_FASTER_AT_END,
    again: 'logged faster near the cut-off',
    acts: 'scatters',
    atEnd: true,
  },
  voltageNoise: {
    words: 'voltage noise',
    improve:
      'find out where the noise of the voltage comes from, or log more rows near the cut-off',
    acts: 'scatters',
    atEnd: true,
  },
  leadResistance: {
    words: 'lead resistance',
    improve:
      'read the voltage on the terminals (four-wire), or find the leads’ resistance from spot readings',
    acts: 'alike',
    atEnd: true,
  },
  counterResolution: {
    words: 'counter resolution',
    improve: 'log current too, or a counter with more digits',
    acts: 'scatters',
  },
  counterInterval: {
    words: 'counter interval',
    improve: 'log more often near the cut-off',
    acts: 'scatters',
  },
  holeCounted: {
    words: 'hole counted',
    improve: NO_HOLE,
    acts: 'scatters',
  },
  holeBridged: {
    words: 'hole bridged',
    improve: NO_HOLE,
    again: 'without a hole in its log',
    acts: 'scatters',
  },
  longInterval: {
    words: 'longer intervals',
    improve: 'find out why rows are missing in the log, and run again without',
    again: 'without missing rows in its log',
    acts: 'scatters',
  },
  repeatability: {
    words: 'repeatability',
    improve: 'find out why runs of one cell scatter: clamping, temperature, rest',
    acts: 'scatters',
  },
  temperature: {
    words: 'temperature',
    improve: 'test closer to the claim’s temperature, or run a temperature set of this model',
    acts: 'alike',
  },
  stateOfCharge: {
    words: 'state of charge',
    improve: 'read it between 30 and 80 % of charge, and say so',
    acts: 'alike',
  },
  rate: {
    words: 'rate',
    improve: 'test at the claim’s rate, or run a rate set of this model',
    acts: 'alike',
  },
  missingRest: {
    words: 'missing rest',
    improve: 'let the cell rest an hour between charge and load',
    again: 'after an hour of rest',
    acts: 'scatters',
  },
  channelBias: {
    words: 'channel bias',
    improve: 'run control cells on this channel once or twice more',
    acts: 'alike',
  },
  voltage: { words: 'voltage', improve: CHECK_VOLTAGE, acts: 'alike' },
  voltageGain: { words: 'voltage gain', improve: CHECK_VOLTAGE, acts: 'alike' },
  voltageScatter: {
    words: 'voltage scatter',
    improve: 'log faster around load-on, at a steadier current',
    acts: 'scatters',
  },
  voltageResolution: {
    words: 'voltage resolution',
    improve: 'log voltage with one more digit',
    acts: 'scatters',
  },
  voltmeters: {
    words: 'voltmeters',
    improve: 'take the spots with a better voltmeter, and at currents further apart',
    acts: 'alike',
  },
  spotScatter: {
    words: 'scatter of the spots',
    improve: 'take more spot readings, at a steadier current',
    acts: 'scatters',
  },
  modelSpread: {
    words: 'spread of the model',
    improve: 'run more cells of this model down the whole curve',
    acts: 'alike',
  },
  dcEnergy: { words: 'DC energy', improve: 'look at the budget of the DC energy', acts: 'alike' },
  acEnergy: {
    words: 'AC energy',
    improve: 'take a better meter behind the inverter',
    acts: 'alike',
  },
  gain: {
    words: 'gain',
    improve: 'check the meter against a reference, or describe it with a narrower accuracy',
    acts: 'alike',
  },
  offset: { words: 'offset', improve: 'zero the meter before the reading', acts: 'alike' },
  resolution: { words: 'resolution', improve: 'type all digits the meter shows', acts: 'scatters' },
  probeContact: {
    words: 'probe contact',
    improve: 'clean the terminals, press the probes and read three times again',
    acts: 'scatters',
  },
  restScatter: {
    words: 'scatter of the rest readings',
    improve: 'read the cell once or twice more while it stands',
    acts: 'scatters',
  },
  restReading: {
    words: 'reading of the voltmeter',
    improve: 'let it stand longer, or read with a meter of one more digit',
    acts: 'scatters',
  },
  relaxation: {
    words: 'relaxation',
    improve: 'read it again after a few days: the first two days count less then',
    acts: 'scatters',
  },
  restTemperature: {
    words: 'unequal temperatures',
    improve: 'read at the same temperature each time',
    acts: 'scatters',
  },
  chargeCurve: {
    words: 'voltage against charge of the model',
    improve: 'run a slow discharge of this model, or let the cell stand longer',
    acts: 'alike',
  },
} as const satisfies Record<string, BudgetKindFacts>;

/** Stable short name of a kind of component. */
export type BudgetKind = keyof typeof BUDGET_KINDS;

/** What the table says of a kind. */
export const budgetKind = (kind: BudgetKind): BudgetKindFacts => BUDGET_KINDS[kind];
