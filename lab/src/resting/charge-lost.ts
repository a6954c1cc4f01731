import { decodeCurve } from '@dusk-tally/core/evidence';
import {
  chargeSlopeAt,
  leakageCurrent,
  monthlyLoss,
  selfDischargeSlope,
  type RestReading,
} from '@dusk-tally/core/resting';
import { median } from '@dusk-tally/core/statistics';
import type { Figure, WholeCurve } from '@dusk-tally/core/units';
import type { RestRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Slower than this a discharge tells charge against voltage at rest, It (handbook, chapter 4). */
const SLOW_IT = 0.25;
/** So many of the lot’s newest slow discharges are read. */
const MOST_CURVES = 30;

/** Slow discharges of a lot, and what they stand below rest at their current. */
export interface SlowCurves {
  curves: WholeCurve[];
  dropV: number;
  capacityAh: number;
}

/** The slow, whole discharges of a lot that are not held, with their drop by the lot’s own resistances. */
export async function slowCurvesOf(
  lab: Lab,
  lotId: number,
  ratedAh: number | null,
  transaction: Transaction,
): Promise<SlowCurves> {
  const none = { curves: [], dropV: 0, capacityAh: ratedAh ?? 0 };
  if (ratedAh === null) return none;
  const [runs, held] = await Promise.all([
    lab.store.runs.find(
      { lotId },
      {
        transaction,
        columns: ['id', 'summary', 'curve'],
        order: [['id', 'DESC']],
        limit: 4 * MOST_CURVES,
      },
    ),
    lab.store.results.holds.find({ lotId, liftedAt: null }, { transaction, columns: ['runId'] }),
  ]);
  const isHeld = new Set(held.map(({ runId }) => runId));
  const slow = runs
    .filter(({ id, summary }) => {
      const amps = summary.meanCurrentA;
      return (
        !isHeld.has(id) &&
        summary.loadOnS !== null &&
        summary.endS !== null &&
        amps !== null &&
        Math.abs(amps) <= SLOW_IT * ratedAh
      );
    })
    .slice(0, MOST_CURVES);
  if (slow.length === 0) return none;
  const resistances = await lab.store.figures.find(
    { runId: slow.map(({ id }) => id), quantity: 'dcResistance10s' },
    { transaction, columns: ['id', 'value'] },
  );
  const curves = slow.map(({ curve }): WholeCurve => ({
    ...decodeCurve(new Uint8Array(curve)).curve,
    standardUncertaintyAh: null,
  }));
  const amps = median(slow.map(({ summary }) => Math.abs(summary.meanCurrentA!)));
  const mohm = resistances.length > 0 ? median(resistances.map(({ value }) => value)) : 0;
  return {
    curves: curves.filter(({ chargeAh }) => chargeAh.length > 1),
    dropV: (amps * mohm) / 1000,
    capacityAh: median(curves.map(({ chargeAh }) => chargeAh[chargeAh.length - 1]!)),
  };
}

/** What the slope of a rest means in charge: figures, or why there are none. */
export function chargeLost(
  readings: readonly RestReading[],
  { curves, dropV, capacityAh }: SlowCurves,
): { figures: Figure[] } & Pick<RestRow['detail'], 'monthly' | 'leakageUa' | 'monthlyRefused'> {
  const nothing = { figures: [], monthly: null, leakageUa: null };
  const slope = selfDischargeSlope(readings);
  if (!slope) return { ...nothing, monthlyRefused: null };
  const found = chargeSlopeAt(curves, readings[readings.length - 1]!.voltageV, dropV);
  if (!found.slope) return { ...nothing, monthlyRefused: found.refused };
  const loss = monthlyLoss(slope, found.slope);
  if (!loss.figure) return { ...nothing, monthlyRefused: loss.refused };
  const leak = leakageCurrent(slope, found.slope, capacityAh);
  const told = ({ value, standardUncertainty }: Figure) => ({
    value,
    standardUncertainty: standardUncertainty!,
  });
  return {
    figures: [loss.figure, ...(leak.figure ? [leak.figure] : [])],
    monthly: told(loss.figure),
    leakageUa: leak.figure ? told(leak.figure) : null,
    monthlyRefused: null,
  };
}
