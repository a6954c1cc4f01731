import { massFromBox } from '@dusk-tally/core/arrivals';
import type { SustainedCurrent } from '@dusk-tally/core/evidence';
import type { RestOutcome } from '@dusk-tally/core/resting';
import type { Quantity } from '@dusk-tally/core/units';
import type {
  CellEvidence,
  ClaimedItem,
  DcResistanceEvidence,
  GradeDecision,
  LotGrounds,
  MeasuredEvidence,
} from '@dusk-tally/core/verdicts';
import type { CellArrivalRow, ResultHoldRow, Transaction } from '@dusk-tally/store';
import type { EffectiveClaim } from '../lots';
import type { Lab } from '../shared';
import {
  type HandConditions,
  standAtClaim,
  type MeterKnowledge,
  type SlimFigure,
  type SlimRun,
} from './at-claim';
import type { ScopedScheme } from './grading/schemes';
import { type CellResult, type HoldContext, judgedResult, ruleHolds } from './holds';

/** What is stored of one cell. */
export interface StoredEvidence {
  figures: SlimFigure[];
  runs: ReadonlyMap<number, SlimRun>;
  arrival: CellArrivalRow | undefined;
  holds: ResultHoldRow[];
  /** What its last rest on the shelf came to; absent where none is over. */
  rest?: RestOutcome | null;
  /** How often it was brought back from deep discharge. */
  recoveries?: number;
  /** The grade a person gave it. */
  decision?: GradeDecision;
}

/** What all cells of a lot are judged by. */
export interface LotRules {
  claim: EffectiveClaim;
  /** Items in effect, as they are judged. */
  items: ClaimedItem[];
  knowledge: MeterKnowledge;
  holding: HoldContext;
  guardFactor: number;
  scheme: ScopedScheme;
  /** What cells are held against where the scheme asks for it; null where it does not. */
  grounds: LotGrounds | null;
  nominalV: number;
  arrivedOn: string | null;
  /** Mass of a cell by the box; null where that was not weighed. */
  boxMassG: MeasuredEvidence | null;
  /** Currents of two-step resistances, A, by figure. */
  stepsA: ReadonlyMap<number, [number, number]>;
  /** How cells of hand logs were discharged, by figure. */
  hands: ReadonlyMap<number, HandConditions>;
}

/** Every item in effect with the conditions it is judged under. */
export const claimedItems = (claim: EffectiveClaim): ClaimedItem[] =>
  claim.items.map(({ kind, value, text, conditions }) => ({
    kind,
    value,
    text,
    conditions: {
      // A current is kept down to the cut-off the capacity is claimed to.
      ...(kind === 'maxDischarge' ? { cutoffV: claim.cutoffV.value } : {}),
      ...Object.fromEntries(conditions.map(({ name, value: said }) => [name, said])),
    },
  }));

/** The newest figure of a quantity that was typed or computed of a cell. */
export const newestOf = (figures: readonly SlimFigure[], quantity: Quantity): SlimFigure | null =>
  figures.reduce<SlimFigure | null>(
    (newest, figure) =>
      figure.quantity === quantity && (newest === null || figure.id > newest.id) ? figure : newest,
    null,
  );

const measured = (figure: SlimFigure | null): MeasuredEvidence | null =>
  figure && {
    value: figure.value,
    standardUncertainty: figure.standardUncertainty,
    bound: figure.bound,
    figureId: figure.id,
  };

/** All capacities of a cell at the claim’s cut-off, and the newest one typed, with what holds them. */
export function resultsOf(
  { figures, runs, holds }: StoredEvidence,
  { claim, knowledge, holding, hands }: Pick<LotRules, 'claim' | 'knowledge' | 'holding' | 'hands'>,
): CellResult[] {
  const capacities = figures.filter((figure) => figure.quantity === 'capacity');
  const typed = newestOf(
    capacities.filter((figure) => figure.runId === null && figure.readingId !== null),
    'capacity',
  );
  const traced = capacities.filter(
    (figure) => figure.runId !== null && figure.cutoffV === claim.cutoffV.value,
  );
  const stood = [...traced, ...(typed ? [typed] : [])].map((raw) => {
    const run = raw.runId === null ? null : (runs.get(raw.runId) ?? null);
    const hand = hands.get(raw.id) ?? null;
    return { raw, run, hand, stood: standAtClaim(raw, run, claim, knowledge, hand) };
  });
  const ruled = ruleHolds(stood, figures, holds, holding);
  return stood.map((one, i) => judgedResult(one, ruled[i]!, holds));
}

const AFTER_S: Partial<Record<Quantity, number>> = {
  dcResistance1s: 1,
  dcResistance10s: 10,
  dcResistance30s: 30,
  // Its second reading is taken a second after the step (IEC 61960-3).
  dcResistanceTwoStep: 1,
};

/** DC resistances of a cell’s runs that are not held, oldest first. */
function dcResistances(
  { figures, runs, holds }: Pick<StoredEvidence, 'figures' | 'runs' | 'holds'>,
  { claim, stepsA, knowledge }: Pick<LotRules, 'claim' | 'stepsA' | 'knowledge'>,
): DcResistanceEvidence[] {
  const ratedAh = claim.capacityAh?.value ?? null;
  const stepIt = (figure: SlimFigure): [number, number] | null => {
    const loadA = figure.runId === null ? null : runs.get(figure.runId)?.summary.meanCurrentA;
    const amps = stepsA.get(figure.id) ?? (loadA ? ([0, loadA] as const) : null);
    return amps && ratedAh ? [amps[0] / ratedAh, amps[1] / ratedAh] : null;
  };
  const temperatureOf = (figure: SlimFigure): number | null => {
    const run = figure.runId === null ? null : runs.get(figure.runId);
    return run ? (run.summary.meanTemperatureC ?? run.ambientC) : null;
  };
  const held = heldRunsOf(holds);
  return figures
    .filter(({ quantity, runId }) => quantity in AFTER_S && !(runId !== null && held.has(runId)))
    .sort((a, b) => a.id - b.id)
    .map((figure) => ({
      ...measured(figure)!,
      afterS: AFTER_S[figure.quantity]!,
      stepIt: stepIt(figure),
      temperatureC: temperatureOf(figure),
      roomC: knowledge.roomC,
    }));
}

/** Runs with an open hold: a current or a voltage that cannot be says nothing of other items, too. */
export const heldRunsOf = (holds: StoredEvidence['holds']): Set<number> =>
  new Set(holds.flatMap(({ runId, liftedAt }) => (liftedAt === null ? (runId ?? []) : [])));

/** Currents runs of the cell kept; none of a run that is held. */
function currentsOf({ runs, holds }: StoredEvidence): SustainedCurrent[] {
  const held = heldRunsOf(holds);
  return [...runs.values()].flatMap(({ id, summary }) =>
    held.has(id) ? [] : (summary.currents ?? []),
  );
}

const codes = (json: string | undefined): string[] => (json ? (JSON.parse(json) as string[]) : []);

/** The newest AC reading with the temperature it was taken at. */
function acResistanceOf(
  figures: readonly SlimFigure[],
  { hands, knowledge }: Pick<LotRules, 'hands' | 'knowledge'>,
): MeasuredEvidence | null {
  const newest = newestOf(figures, 'acResistance');
  return (
    newest && {
      ...measured(newest)!,
      temperatureC: hands.get(newest.id)?.temperatureC,
      roomC: knowledge.roomC,
    }
  );
}

/** Everything that bears on what was claimed of one cell. */
export function evidenceOf(stored: StoredEvidence, rules: LotRules): CellEvidence<CellResult> {
  const { figures, arrival } = stored;
  const found = codes(arrival?.found);
  return {
    capacities: resultsOf(stored, rules),
    acResistanceMohm: acResistanceOf(figures, rules),
    dcResistancesMohm: dcResistances(stored, rules),
    massG: measured(newestOf(figures, 'mass')) ?? rules.boxMassG,
    thicknessMm: measured(newestOf(figures, 'thickness')),
    produced:
      arrival?.producedOn && arrival.producedUntil
        ? { from: arrival.producedOn, until: arrival.producedUntil }
        : null,
    currents: currentsOf(stored),
    heatAlarm: found.includes('heater') ? 'it heated on charge' : null,
    isInspected: arrival?.inspected ?? false,
    findings: found,
    arrivedOn: rules.arrivedOn,
  };
}

/** What the box weighed, as the mass of one cell; null where it was not weighed. */
export async function boxMassOf(
  lab: Lab,
  lotId: number,
  cells: number,
  transaction: Transaction,
): Promise<MeasuredEvidence | null> {
  const entries = await lab.store.arrivals.newestReceiving(lotId, transaction);
  const number = (field: string): number | null => {
    const value = entries.find((entry) => entry.field === field)?.value;
    return typeof value === 'number' ? value : null;
  };
  const mass = massFromBox({
    grossG: number('grossG'),
    tareG: number('tareG'),
    netG: number('netG'),
    scaleToleranceG: number('scaleToleranceG') ?? 5,
    cells,
  });
  return mass && { ...mass, figureId: null };
}
