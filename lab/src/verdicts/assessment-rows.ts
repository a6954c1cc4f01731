import type { AssessedItem, ItemState, Range } from '@dusk-tally/core/verdicts';
import type { Estimate } from '@dusk-tally/core/units';
import type { AlikeAssessment, AssessmentRow } from '@dusk-tally/store';

function whyOf(item: AssessedItem): string[] {
  switch (item.state) {
    case 'waitingFor':
      return item.what;
    case 'held':
      return item.why;
    case 'contradicted':
      return item.by;
    default:
      return [];
  }
}

/** An assessed item as it is kept. */
export const assessmentRow = (item: AssessedItem): AlikeAssessment => ({
  item: item.item,
  state: item.state,
  value: item.estimate?.value ?? null,
  standardUncertainty: item.estimate?.standardUncertainty ?? null,
  bound: item.estimate?.bound ?? null,
  low: item.limits?.low ?? null,
  high: item.limits?.high ?? null,
  probability: 'probability' in item ? item.probability : null,
  figureId: item.figureId,
  detail: {
    differences: item.differences,
    corrections: item.corrections,
    why: whyOf(item),
  },
});

function stateOf({ state, probability, detail: { why } }: AlikeAssessment): ItemState {
  switch (state) {
    case 'met':
    case 'notMet':
    case 'tooClose':
      return { state, probability: probability! };
    case 'waitingFor':
      return { state, what: why };
    case 'held':
      return { state, why };
    case 'contradicted':
      return { state, by: why };
    default:
      return { state };
  }
}

const estimateOf = (row: AlikeAssessment): Estimate | null =>
  row.value === null
    ? null
    : {
        value: row.value,
        standardUncertainty: row.standardUncertainty,
        bound: row.bound ?? 'exact',
      };

const limitsOf = ({ low, high }: AlikeAssessment): Range | null =>
  low === null && high === null ? null : { low, high };

/** A kept item as it was assessed. */
export const assessedItem = (row: AssessmentRow | AlikeAssessment): AssessedItem => ({
  item: row.item,
  estimate: estimateOf(row),
  figureId: row.figureId,
  limits: limitsOf(row),
  differences: row.detail.differences,
  corrections: row.detail.corrections,
  ...stateOf(row),
});
