import { CLAIM_KINDS, type ClaimKind } from '../arrivals';
import type { Correction } from '../evidence';
import { isKnown, NO_UNCERTAINTY } from '../units';
import { assessWords } from './assess-words';
import { assessCurrents } from './assess-currents';
import {
  type AssessedCell,
  type AssessedItem,
  bare,
  type CapacityEvidence,
  type CellEvidence,
  type ClaimedItem,
  type DcResistanceEvidence,
  type ItemState,
  type MeasuredEvidence,
} from './assessed-item';
import { countingResult } from './counting';
import { thicknessOf } from './claimed-size';
import { judgeCarried, type Range } from './judge';
import { underConditions } from './resistance-conditions';

/** Mass and size count as met within this where no tolerance is stated, % (house default). */
export const HOUSE_TOLERANCE_PCT = 3;
/** Times and currents of a step that differ by less are the same step, as a share. */
const SAME_STEP = 0.1;

const BY_BOX = 'By the box, net over count: this cell may differ.';

/** Items that are the whole lot’s, and no cell’s: counted, or a date. */
export const LOT_ITEMS: readonly ClaimKind[] = ['quantity', 'disputeWindow'];

/** Items told of every cell, whether they are claimed or not. */
const ALWAYS: readonly ClaimKind[] = ['capacity', 'acResistance'];

const nothing = (item: ClaimKind): Omit<AssessedItem, keyof ItemState> => ({
  item,
  estimate: null,
  figureId: null,
  limits: null,
  differences: [],
  corrections: [],
});

/** Limits of an item stated as highest, as a range, or within a tolerance. */
function limitsOf({ kind, value, conditions }: ClaimedItem): Range | null {
  if (value === null) return null;
  switch (kind) {
    case 'capacity':
      return { low: value, high: null };
    case 'acResistance':
    case 'dcResistance':
      return {
        low: conditions.statedAs === 'range' ? (conditions.low ?? null) : null,
        high: value,
      };
    case 'mass': {
      const share = (conditions.tolerancePct ?? HOUSE_TOLERANCE_PCT) / 100;
      return { low: value * (1 - share), high: value * (1 + share) };
    }
    default:
      return null;
  }
}

/** A measured value against its limits; what stands in the way is said instead. */
function judged(
  measured: MeasuredEvidence | null,
  limits: Range | null,
  missing: string,
  {
    guardFactor,
    isTypical,
    corrections = [],
  }: { guardFactor: number; isTypical: boolean; corrections?: readonly Correction[] },
): ItemState {
  if (!measured) return { state: 'waitingFor', what: [missing] };
  if (isTypical) return { state: 'described' };
  if (!limits) return { state: 'notClaimed' };
  if (!isKnown(measured)) return { state: 'waitingFor', what: [`${missing}: ${NO_UNCERTAINTY}`] };
  const { verdict, probability } = judgeCarried(measured, limits, { guardFactor, corrections });
  return { state: verdict, probability };
}

const stated = (
  measured: MeasuredEvidence | null,
  limits: Range | null,
): Pick<AssessedItem, 'estimate' | 'figureId' | 'limits'> => ({
  estimate: measured && bare(measured),
  figureId: measured?.figureId ?? null,
  limits,
});

/** The newer of two capacities: shown where all are held. */
const newest = <C extends CapacityEvidence>(capacities: readonly C[]): C | null =>
  capacities.reduce<C | null>((a, b) => (a !== null && a.order > b.order ? a : b), null);

function assessCapacity<C extends CapacityEvidence>(
  capacities: readonly C[],
  claimed: ClaimedItem | undefined,
  guardFactor: number,
): { counting: C | null; item: AssessedItem } {
  const at = countingResult(capacities);
  const counting = at === null ? null : capacities[at]!;
  const shown = counting ?? newest(capacities);
  const limits = claimed ? limitsOf(claimed) : null;
  const common = {
    ...nothing('capacity'),
    estimate: shown && bare(shown.atClaim ?? shown.raw),
    limits,
    differences: shown?.differences ?? [],
    corrections: shown?.corrections ?? [],
  };
  const say = (state: ItemState) => ({ counting, item: { ...common, ...state } });
  if (shown && !counting) return say({ state: 'held', why: shown.holds.map(({ text }) => text) });
  if (counting && counting.atClaim === null) return say({ state: 'notComparable' });
  if (!limits) return say({ state: 'notClaimed' });
  return say(
    judged(counting && { ...counting.atClaim!, figureId: null }, limits, 'a capacity test', {
      guardFactor,
      isTypical: claimed?.conditions.statedAs === 'typical',
      corrections: common.corrections,
    }),
  );
}

function assessAcResistance(
  measured: MeasuredEvidence | null,
  claimed: ClaimedItem | undefined,
  guardFactor: number,
): AssessedItem {
  const limits = claimed ? limitsOf(claimed) : null;
  const isTypical = claimed?.conditions.statedAs === 'typical';
  if (!limits || !measured) {
    const state: ItemState = limits
      ? judged(measured, limits, 'an AC resistance reading', { guardFactor, isTypical })
      : { state: 'notClaimed' };
    return { ...nothing('acResistance'), ...stated(measured, limits), ...state };
  }
  const { estimate, corrections } = underConditions('acResistance', measured, claimed!.conditions);
  const carried = { ...measured, ...estimate };
  return {
    ...nothing('acResistance'),
    ...stated(carried, limits),
    ...judged(carried, limits, 'an AC resistance reading', { guardFactor, isTypical }),
    corrections,
  };
}

/** `0.2 / 1` as two rates, It. */
const stepOf = (text: string | undefined): [number, number] | null => {
  const parts = text?.split('/').map((part) => Number(part.trim().replace(',', '.'))) ?? [];
  return parts.length === 2 && parts.every(Number.isFinite) ? [parts[0]!, parts[1]!] : null;
};

const alike = (a: number, b: number): boolean =>
  Math.abs(a - b) <= SAME_STEP * Math.max(Math.abs(a), Math.abs(b));

/** Why a DC resistance is not the claimed one; empty for the same step and time. */
function dcDifferences(measured: DcResistanceEvidence, claimed: ClaimedItem): string[] {
  const { pulseS, stepIt } = claimed.conditions;
  const step = stepOf(stepIt);
  const shown = (pair: [number, number]) => `${pair[0]} / ${Number(pair[1].toPrecision(2))} It`;
  const differences: string[] = [];
  if (measured.afterS === null) differences.push('Measured by another method than a step.');
  else if (!alike(measured.afterS, pulseS!))
    differences.push(`Measured after ${measured.afterS} s, claimed after ${pulseS} s.`);
  if (step && !measured.stepIt) differences.push('The currents of the step are not known.');
  else if (step && !step.every((rate, i) => alike(rate, measured.stepIt![i]!)))
    differences.push(
      `Measured on a step of ${shown(measured.stepIt!)}, claimed on ${shown(step)}.`,
    );
  return differences;
}

function assessDcResistance(
  figures: readonly DcResistanceEvidence[],
  claimed: ClaimedItem,
  guardFactor: number,
): AssessedItem {
  const limits = limitsOf(claimed);
  const common = { ...nothing('dcResistance'), limits };
  const newestFirst = [...figures].reverse();
  if (newestFirst.length === 0)
    return { ...common, state: 'waitingFor', what: ['a DC resistance from a run'] };
  if (claimed.conditions.pulseS === undefined)
    return {
      ...common,
      state: 'notComparable',
      differences: [
        'The claim does not say after how long; without that a DC resistance means nothing.',
      ],
    };
  const fitting = newestFirst.find((figure) => dcDifferences(figure, claimed).length === 0);
  if (!fitting)
    return {
      ...common,
      ...stated(newestFirst[0]!, limits),
      state: 'notComparable',
      differences: dcDifferences(newestFirst[0]!, claimed),
    };
  const { estimate, corrections, differences } = underConditions(
    'dcResistance',
    fitting,
    claimed.conditions,
  );
  if (differences.length > 0)
    return { ...common, ...stated(fitting, limits), state: 'notComparable', differences };
  const carried = { ...fitting, ...estimate };
  return {
    ...common,
    ...stated(carried, limits),
    ...judged(carried, limits, 'a DC resistance from a run', {
      guardFactor,
      isTypical: claimed.conditions.statedAs === 'typical',
    }),
    corrections,
  };
}

function assessSize(
  measured: MeasuredEvidence | null,
  claimed: ClaimedItem,
  guardFactor: number,
): AssessedItem {
  const claimedMm = claimed.text === null ? null : thicknessOf(claimed.text);
  const share = (claimed.conditions.tolerancePct ?? HOUSE_TOLERANCE_PCT) / 100;
  const limits = claimedMm && { low: claimedMm * (1 - share), high: claimedMm * (1 + share) };
  if (!limits)
    return {
      ...nothing('size'),
      ...stated(measured, null),
      state: 'notComparable',
      differences: [`No measures are understood in “${claimed.text ?? ''}”.`],
    };
  return {
    ...nothing('size'),
    ...stated(measured, limits),
    ...judged(measured, limits, 'a measured thickness or diameter', {
      guardFactor,
      isTypical: false,
    }),
  };
}

/**
 * Where one cell stands against everything claimed of it: the one answer to which result counts
 * and what it says (handbook, chapter 5, “Every claim item is judged”). Items of the whole lot
 * are not among it.
 * @param claim every item in effect, at most one of a kind. @param guardFactor g of the decision
 *   rule. @returns items in the order of the chapter; capacity and AC resistance always.
 */
export function assessCell<C extends CapacityEvidence>(
  evidence: CellEvidence<C>,
  claim: readonly ClaimedItem[],
  guardFactor: number,
): AssessedCell<C> {
  const byKind = new Map(claim.map((item) => [item.kind, item]));
  const { counting, item } = assessCapacity(
    evidence.capacities,
    byKind.get('capacity'),
    guardFactor,
  );
  const assess = (kind: ClaimKind): AssessedItem[] => {
    const claimed = byKind.get(kind);
    if (LOT_ITEMS.includes(kind) || (!claimed && !ALWAYS.includes(kind))) return [];
    switch (kind) {
      case 'capacity':
        return [item];
      case 'acResistance':
        return [assessAcResistance(evidence.acResistanceMohm, claimed, guardFactor)];
      case 'dcResistance':
        return [assessDcResistance(evidence.dcResistancesMohm, claimed!, guardFactor)];
      case 'mass': {
        const limits = limitsOf(claimed!);
        const state = judged(evidence.massG, limits, 'a weighing', {
          guardFactor,
          isTypical: false,
        });
        // A mass that is no figure of this cell is the box’s.
        const differences = evidence.massG && evidence.massG.figureId === null ? [BY_BOX] : [];
        return [{ ...nothing(kind), ...stated(evidence.massG, limits), ...state, differences }];
      }
      case 'size':
        return [assessSize(evidence.thicknessMm, claimed!, guardFactor)];
      case 'maxCharge':
      case 'maxDischarge':
        return [
          {
            ...nothing(kind),
            ...assessCurrents(kind, evidence, claimed!, counting?.raw ?? null),
          },
        ];
      default:
        return [{ ...nothing(kind), ...assessWords(kind, evidence, claimed!) }];
    }
  };
  return { counting, items: CLAIM_KINDS.flatMap(assess) };
}
