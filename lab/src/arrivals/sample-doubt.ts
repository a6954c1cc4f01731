import {
  hypergeometricAtMost,
  type MeasuringDoubt,
  rejectedWithDoubt,
  sequentialOutlook,
  sequentialRequest,
  stoppingLimits,
} from '@dusk-tally/core/arrivals';
import { median, standardDeviation } from '@dusk-tally/core/statistics';
import type { SamplingPlanRow } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Newest results that tell how this lab measures. */
const RESULTS = 200;
/** Before there are five: a fair tester, and cells of one lot as they usually differ (house). */
const HOUSE_U = 0.012;
const HOUSE_SPREAD = 0.015;
const FEWEST = 5;

/** How this lab measures capacities, by its newest results; of the lot its own spread. */
export async function doubtOf(lab: Lab, lotId: number): Promise<MeasuringDoubt> {
  const { store } = lab;
  const [rows, own, settings] = await Promise.all([
    store.verdicts.assessments.find(
      { item: 'capacity', state: ['met', 'notMet', 'tooClose'] },
      {
        columns: ['value', 'standardUncertainty', 'bound'],
        order: [['cellId', 'DESC']],
        limit: RESULTS,
      },
    ),
    store.verdicts.assessments.find(
      { lotId, item: 'capacity', state: ['met', 'notMet', 'tooClose'] },
      { columns: ['value', 'bound'] },
    ),
    store.settings.one({}),
  ]);
  const relative = rows.flatMap(({ value, standardUncertainty: u, bound }) =>
    value && u && bound === 'exact' ? [(2 * u) / value] : [],
  );
  const values = own.flatMap(({ value, bound }) => (value && bound === 'exact' ? [value] : []));
  const spread =
    values.length >= FEWEST
      ? standardDeviation(values) / (values.reduce((a, b) => a + b, 0) / values.length)
      : HOUSE_SPREAD;
  return {
    relativeU: relative.length >= FEWEST ? median(relative) : HOUSE_U,
    spread,
    guardFactor: settings?.guardFactor ?? 1,
  };
}

const percent = (share: number) => `${Number((100 * share).toPrecision(2))} %`;

/** What the risks a plan states are with the lab’s measuring doubt, in words; empty for one without two risks. */
export function doubtWords(plan: SamplingPlanRow, doubt: MeasuringDoubt): string {
  if (plan.method !== 'sequential' && plan.method !== 'risk') return '';
  const number = (name: string) => Number(plan.parameters[name]);
  const [goodPct, badPct] = [number('goodPct'), number('badPct')];
  const { lotSize, sampleSize, acceptance } = plan;
  const limits =
    plan.method === 'sequential'
      ? stoppingLimits(
          sequentialRequest(lotSize, {
            goodPct,
            producerRiskPct: number('producerRiskPct'),
            badPct,
            consumerRiskPct: number('consumerRiskPct'),
          }),
          { producer: number('strictProducer'), consumer: number('strictConsumer') },
        )
      : null;
  const rejects = (marked: number) =>
    limits
      ? sequentialOutlook({ lotSize, limits }, marked).reject
      : 1 - hypergeometricAtMost(acceptance, { population: lotSize, marked, sample: sampleSize });
  const rejected = (pct: number) => rejectedWithDoubt(pct / 100, doubt, lotSize, rejects);
  return `With this lab’s measuring doubt (U = ${percent(doubt.relativeU)} of a result, cells ${percent(doubt.spread)} apart) a lot with ${goodPct} % short is turned away in ${percent(rejected(goodPct))} of draws, one with ${badPct} % short taken in ${percent(1 - rejected(badPct))}: what is too close to call counts as short.`;
}
