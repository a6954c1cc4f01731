import { type BudgetComponent, COVERAGE_FACTOR, type Figure } from './figure';

/** What would narrow a figure most, and how far. */
export interface Improvement {
  /** Component that weighs most. */
  name: string;
  /** Share of the variance it makes, 0 to 1. */
  share: number;
  /** Expanded uncertainty that would be left without it (k = 2), in the figure’s unit. */
  expandedWithout: number;
  advice: string;
}

/** What to do about a component, by its name (handbook, chapter 3). */
const ADVICE: Record<string, string> = {
  'current gain': 'calibrate the tester’s current, or describe it with a narrower accuracy',
  'current offset': 'zero the current reading before the run, or test at a higher current',
  'time base': 'check the tester’s clock against a good one',
  'load-on instant': 'log faster around load-on',
  'cut-off voltage': 'check the tester’s voltage against a reference and enter its table',
  'end between samples': 'log faster near the cut-off',
  'counter resolution': 'log current too, or a counter with more digits',
  'counter interval': 'log more often near the cut-off',
  'lead resistance':
    'read the voltage on the terminals (four-wire), or find the leads’ resistance from spot readings',
  repeatability: 'find out why runs of one cell scatter: clamping, temperature, rest',
  'hole bridged': 'find out why the log has a hole, and run again without one',
  'hole counted': 'find out why the log has a hole, and run again without one',
  'voltage noise':
    'find out where the noise of the voltage comes from, or log more rows near the cut-off',
  'bend at the cut-off': 'log faster near the cut-off',
  pause: 'run it again without a pause',
  'as measured': 'look at the budget of the measured figure',
  temperature: 'test closer to the claim’s temperature, or run a temperature set of this model',
  rate: 'test at the claim’s rate, or run a rate set of this model',
  'missing rest': 'let the cell rest an hour between charge and load',
  'channel bias': 'run control cells on this channel once or twice more',
  voltage: 'check the tester’s voltage against a reference',
  'voltage scatter': 'log faster around load-on, at a steadier current',
  'voltage resolution': 'log voltage with one more digit',
  'voltage gain': 'check the tester’s voltage against a reference',
  current: 'calibrate the tester’s current',
};

/** The single improvement that would help most; null for a figure without a budget. */
export function bestImprovement(
  figure: Pick<Figure, 'budget' | 'standardUncertainty'>,
): Improvement | null {
  const worst = figure.budget.reduce<BudgetComponent | null>(
    (most, part) => (most && most.standardUncertainty >= part.standardUncertainty ? most : part),
    null,
  );
  const u = figure.standardUncertainty ?? 0;
  if (!worst || !(u > 0)) return null;
  const share = Math.min(1, (worst.standardUncertainty / u) ** 2);
  return {
    name: worst.name,
    share,
    expandedWithout: COVERAGE_FACTOR * u * Math.sqrt(1 - share),
    advice: ADVICE[worst.name] ?? `look into ${worst.name}`,
  };
}
