import { decodeCurve } from '@dusk-tally/core/evidence';
import { dayIn } from '@dusk-tally/core/units';
import { VERDICT_WORDS } from '@dusk-tally/core/verdicts';
import type { CellArrivalRow, FigureRow, RunRow } from '@dusk-tally/store';
import type { CellLine } from '../verdicts';
import type { ReportedFigure, ReportedItem } from '../compute';
import { arrivalWords } from './reported-words';

/** Points of a printed curve. */
const PRINTED_POINTS = 90;

type Slim = Omit<FigureRow, 'detail'>;

function reported(figure: Slim | undefined): ReportedFigure | null {
  if (!figure) return null;
  const { id, value, unit, bound, method, methodVersion, standardUncertainty } = figure;
  return {
    value,
    U: standardUncertainty === null ? null : 2 * standardUncertainty,
    unit,
    bound,
    method,
    methodVersion,
    resultId: id,
  };
}

function curveOfRun(run: RunRow | undefined): ReportedItem['curve'] {
  if (!run) return null;
  const { curve } = decodeCurve(new Uint8Array(run.curve));
  const step = Math.max(1, Math.floor(curve.voltageV.length / PRINTED_POINTS));
  const keep = (_: number, i: number) => i % step === 0 || i === curve.voltageV.length - 1;
  const rounded = (values: Float32Array, digits: number) =>
    Array.from(values.filter(keep), (value) => Number(value.toFixed(digits)));
  return { ah: rounded(curve.chargeAh, 4), v: rounded(curve.voltageV, 4) };
}

/** What is known of one cell, beside how it stands. */
interface KnownOfItem {
  figures: readonly Slim[];
  run: RunRow | undefined;
  rank: number | null;
  arrival: CellArrivalRow | undefined;
  /** What standing full came to. */
  rest: string[];
  overdue: OverdueAt;
  timeZone: string;
}

export function itemOf(
  line: CellLine,
  { figures, run, rank, arrival, rest, overdue, timeZone }: KnownOfItem,
): ReportedItem {
  const testedOn = run ? dayIn(timeZone, run.startedAt ?? run.createdAt) : null;
  // What a channel out of control measured is not given out before someone looked.
  const free = line.held === null;
  const capacity = figures.find((figure) => figure.id === line.capacityFigureId);
  const ofRun = (quantity: string) =>
    figures
      .filter((f) => f.quantity === quantity && f.runId === (capacity?.runId ?? -1))
      .sort((a, b) => b.id - a.id)[0];
  const newest = (quantity: string) =>
    figures.filter((f) => f.quantity === quantity).sort((a, b) => b.id - a.id)[0];
  return {
    number: line.number,
    label: line.label,
    testedOn,
    capacity: free ? reported(capacity) : null,
    capacityMeasured:
      !free || line.capacityRawFigureId === line.capacityFigureId
        ? null
        : reported(figures.find((figure) => figure.id === line.capacityRawFigureId)),
    corrections: free ? line.corrections.map((correction) => correction.text) : [],
    energy: free ? reported(ofRun('energy')) : null,
    dcResistance10s: free ? reported(ofRun('dcResistance10s')) : null,
    acResistance: reported(figures.find((figure) => figure.id === line.acFigureId)),
    openCircuitVoltage: reported(newest('openCircuitVoltage')),
    stateOfHealthPct: line.stateOfHealth === null ? null : 100 * line.stateOfHealth,
    verdicts: {
      capacity: line.verdict
        ? line.verdict === 'tooClose' && line.bound === 'atLeast'
          ? 'at least; open'
          : VERDICT_WORDS[line.verdict]
        : line.comparable === false
          ? 'not comparable'
          : null,
      acResistance: line.acVerdict ? VERDICT_WORDS[line.acVerdict] : null,
    },
    grade: line.grade,
    reasons: line.reasons,
    waitingFor: line.waitingFor,
    differences: [
      ...(line.held ? [`Capacity is held back: ${line.held}`] : []),
      ...line.differences,
      ...(run && testedOn ? overdue(run.channelId, testedOn) : []),
    ],
    rank: free ? rank : null,
    onArrival: arrivalWords(arrival),
    rest,
    curve: curveOfRun(run),
  };
}

/** Says that a channel’s calibration had run out on the day of a test. */
export type OverdueAt = (channelId: number | null, day: string) => string[];
