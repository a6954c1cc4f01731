import { dayIn } from '@dusk-tally/core/units';
import { typedFigure, type TypedQuantityName } from '@dusk-tally/core/verdicts';
import type {
  FigureRow,
  InstrumentRow,
  NewRow,
  ReadingKind,
  ReadingRow,
  Transaction,
} from '@dusk-tally/store';
import type { Touched } from '../derived';
import { labTimeZone } from '../lots';
import type { Lab } from '../shared';
import { figureRow } from '../derived';
import { meterAccuracy } from './instruments';
import { metersThen } from './meter-periods';

const isFigure = (kind: ReadingKind): kind is TypedQuantityName =>
  kind !== 'energyShown' && kind !== 'currentShown' && kind !== 'durationShown';

/** Figures of readings that are some of their own. */
export const figuresOf = (readings: readonly ReadingRow[], instrument: InstrumentRow | null) =>
  readings.flatMap((reading) => {
    // What a tester shows beside the charge checks it; it is no figure of its own.
    // The result of a hand log has its figure from the points of that.
    if (reading.value === null || reading.handLogId || !isFigure(reading.kind)) return [];
    const figure = typedFigure(reading.kind, {
      value: reading.value,
      decimals: reading.decimals,
      repeats: reading.repeats,
      probe: reading.probe,
      ...meterAccuracy(instrument, reading.kind),
    });
    const place = {
      cellId: reading.cellId,
      lotId: reading.lotId,
      runId: null,
      readingId: reading.id,
      cutoffV: null,
    };
    return figureRow(figure, place, {
      clientKey: reading.clientKey,
      instrumentId: reading.instrumentId,
    });
  });

const isAs = (now: NewRow<FigureRow>, stored: Pick<FigureRow, 'value' | 'standardUncertainty'>) =>
  now.value === stored.value && now.standardUncertainty === stored.standardUncertainty;

/**
 * Makes figures of typed readings new where their meter was described anew for their day; those of
 * other days keep what held then.
 * @returns cells whose figures are others now.
 */
export async function renewReadings(
  lab: Lab,
  { lotId, cellIds }: Touched,
  transaction: Transaction,
): Promise<number[]> {
  const { store } = lab;
  const standing = new Map(
    (await store.evidence.latestFigures(lotId, cellIds && [...cellIds], transaction)).flatMap(
      (figure) => (figure.readingId === null ? [] : [[figure.readingId, figure] as const]),
    ),
  );
  if (standing.size === 0) return [];
  // A meter that was never described anew says of every day what it always said.
  const described = new Set(
    (await store.meters.periods.find({ channelId: null }, { transaction })).map(
      ({ instrumentId }) => instrumentId,
    ),
  );
  if (described.size === 0) return [];
  const [readings, meters, timeZone] = await Promise.all([
    store.readings.find(
      { id: [...standing.keys()], instrumentId: [...described] },
      { transaction, order: [['id', 'ASC']] },
    ),
    metersThen(lab, transaction),
    labTimeZone(lab, transaction),
  ]);
  const renewed = readings.flatMap((reading) =>
    figuresOf(
      [reading],
      meters.instrument(reading.instrumentId, dayIn(timeZone, reading.at)),
    ).filter((figure) => !isAs(figure, standing.get(reading.id)!)),
  );
  if (renewed.length > 0) await store.figures.insertMany(renewed, transaction);
  return [...new Set(renewed.map(({ cellId }) => cellId))];
}
