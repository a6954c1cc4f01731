import { calibrationState } from '@dusk-tally/core/evidence';
import { histogram, mean, standardDeviation } from '@dusk-tally/core/statistics';
import { dayIn } from '@dusk-tally/core/units';
import type { InstrumentRow, PersonRow, ReadingRow, RunRow, Transaction } from '@dusk-tally/store';
import { labTimeZone, loadClaim } from '../lots';
import { type MetersThen, metersThen } from '../evidence';
import { found, type Lab } from '../shared';
import { type CellLine, cellLines, schemeFor, standingFigures } from '../verdicts';
import { CAUTIONS, type ReportSnapshot } from '../compute';
import {
  accuracyWords,
  calibrationWords,
  claimLines,
  methodWords,
  notTestedWords,
  ruleWords,
} from './reported-words';
import { gradesOf } from './grade-words';
import { heldInTests } from './held-words';
import { reopenedWords } from './sample-words';
import { itemOf, type OverdueAt } from './reported-item';
import { restsToReport } from './reported-rest';

export interface SnapshotRequest {
  lotId: number;
  cellIds: number[];
  customer: string;
  number: string;
  issuedBy: string;
  /** What it is printed in; the lab’s where none is named. */
  language?: ReportSnapshot['language'];
}

/** Whether a channel’s calibration was overdue on a day, in words. */
function overdueAt(meters: MetersThen): OverdueAt {
  return (channelId, day) => {
    // As it was on the day of the test: a calibration renewed since does not reach back.
    const channel = meters.channel(channelId, day);
    const tester = channel && meters.instrument(channel.instrumentId, day);
    const due = channel?.dueOn ?? tester?.dueOn ?? null;
    if (!channel || !tester || calibrationState(due, day) !== 'overdue') return [];
    return [
      `Calibration of ${tester.name}, ${channel.name} was overdue on the day of the test (due ${due}).`,
    ];
  };
}

/** A run or a reading, with the day it was made on. */
interface Made {
  instrumentId: number | null;
  personId: number;
  day: string;
}

/** Runs and readings with their days. */
const madeOn = (
  meters: MetersThen,
  timeZone: string,
  runs: readonly RunRow[],
  readings: readonly ReadingRow[],
): Made[] => [
  ...runs.map((run) => ({ ...run, day: meters.dayOf(run) })),
  ...readings.map((reading) => ({ ...reading, day: dayIn(timeZone, reading.at) })),
];

/** An instrument as it was described when results were made with it, and the last day of that. */
interface InstrumentThen {
  row: InstrumentRow;
  lastUsed: string;
}

/**
 * Instruments as they were on the days results were made with them, in order of name: one that was
 * described anew in between stands here twice.
 */
function instrumentsThen(meters: MetersThen, made: readonly Made[]): InstrumentThen[] {
  const byState = new Map<string, InstrumentThen>();
  for (const { instrumentId, day } of made) {
    const row = meters.instrument(instrumentId, day);
    if (!row) continue;
    const key = JSON.stringify([row.id, row.accuracy, row.calibratedOn, row.dueOn]);
    const known = byState.get(key);
    if (!known || known.lastUsed < day) byState.set(key, { row, lastUsed: day });
  }
  return [...byState.values()].sort(
    (x, y) => x.row.name.localeCompare(y.row.name) || x.lastUsed.localeCompare(y.lastUsed),
  );
}

const instrumentLine = ({ row, lastUsed }: InstrumentThen) => ({
  name: row.name,
  serial: row.serial,
  accuracy: accuracyWords(row),
  calibration: calibrationWords(row, lastUsed),
});

/** People some runs and readings were made by. */
const peopleOf = (
  lab: Lab,
  rows: readonly { personId: number }[],
  transaction: Transaction,
): Promise<Pick<PersonRow, 'id' | 'name'>[]> =>
  lab.store.people.find(
    { id: [...new Set(rows.map((row) => row.personId))] },
    { transaction, columns: ['id', 'name'] },
  );

/** Where the tested cells of the lot lie. */
const positionOf = (tested: number, values: readonly number[]): ReportSnapshot['lotPosition'] => ({
  tested,
  mean: values.length > 0 ? mean(values) : null,
  standardDeviation: values.length > 1 ? standardDeviation(values) : null,
  minimum: values.length > 0 ? Math.min(...values) : null,
  bins: histogram(values),
});

/** Runs of the capacities among some figures, by figure. */
const capacityRunsOf = (
  figures: readonly { id: number; quantity: string; runId: number | null }[],
): ReadonlyMap<number, number> =>
  new Map(
    figures
      .filter(({ quantity }) => quantity === 'capacity' || quantity === 'capacityAtClaim')
      .flatMap((figure) => (figure.runId ? [[figure.id, figure.runId]] : [])),
  );

/** Place of a cell among the tested ones of its lot, the strongest first; null where it has none. */
const rankOf = (line: CellLine, values: readonly number[]): number | null =>
  line.capacityAh !== null && line.bound === 'exact' && line.comparable && line.held === null
    ? values.filter((value) => value > line.capacityAh!).length + 1
    : null;

/** The mark as it is frozen in a report; null for none. */
async function markOf(
  lab: Lab,
  id: number | null,
  transaction: Transaction,
): Promise<ReportSnapshot['lab']['mark'] | null> {
  const row = id === null ? null : await lab.store.reportMarks.one({ id }, { transaction });
  if (!row) return null;
  const png = `data:image/png;base64,${Buffer.from(row.png).toString('base64')}`;
  return { png, width: row.width, height: row.height };
}

/** Gathers everything a report says, at this moment. */
export async function makeSnapshot(
  lab: Lab,
  request: SnapshotRequest,
  transaction: Transaction,
): Promise<ReportSnapshot> {
  const { store } = lab;
  const { lot, model, profile, claim } = await loadClaim(lab, request.lotId, transaction);
  const settings = found(
    await store.settings.one({ id: 1 }, { transaction }),
    'The lab’s settings',
  );
  const scheme = await schemeFor(lab, model, transaction);
  const mark = await markOf(lab, settings.markId, transaction);
  const lines = await cellLines(lab, lot.id);
  const wanted = new Set(request.cellIds);
  const figures = await standingFigures(lab, lot.id, request.cellIds, transaction);
  const meters = await metersThen(lab, transaction);
  const [overdue, timeZone] = [overdueAt(meters), await labTimeZone(lab, transaction)];
  const capacityRuns = capacityRunsOf(figures);
  const runs = await store.runs.find(
    { cellId: request.cellIds },
    { transaction, order: [['id', 'ASC']] },
  );
  const readings = await store.evidence.latestReadings(lot.id, request.cellIds, transaction);
  const made = madeOn(meters, timeZone, runs, readings);
  const people = await peopleOf(lab, made, transaction);
  const tested = lines.filter(
    (line) =>
      line.capacityAh !== null && line.bound === 'exact' && line.comparable && line.held === null,
  );
  const values = tested.map((line) => line.capacityAh!);
  const arrivals = await store.arrivals.cells.find({ cellId: request.cellIds }, { transaction });
  const rests = await restsToReport(lab, request.cellIds, transaction);
  const arrivalOf = new Map(arrivals.map((arrival) => [arrival.cellId, arrival]));
  const items = lines
    .filter((line) => wanted.has(line.id))
    .map((line) => {
      const runId = line.capacityFigureId ? capacityRuns.get(line.capacityFigureId) : undefined;
      return itemOf(line, {
        figures: figures.filter((figure) => figure.cellId === line.id),
        run: runs.find((run) => run.id === runId),
        rank: rankOf(line, values),
        arrival: arrivalOf.get(line.id),
        rest: rests.get(line.id) ?? [],
        overdue,
        timeZone,
      });
    });
  const issuedAt = lab.now().toISOString();
  const undescribed = [...runs, ...readings].some((row) => row.instrumentId === null);
  return {
    format: 'dusk-tally/buyer-report',
    formatVersion: 8,
    language: request.language ?? settings.language,
    number: request.number,
    issuedAt,
    timeZone,
    lab: { name: settings.labName, place: settings.place, ...(mark && { mark }) },
    customer: request.customer,
    issuedBy: request.issuedBy,
    testedBy: people.map((person) => person.name).sort(),
    lot: { code: lot.code, title: lot.title, receivedOn: lot.arrivedOn, cells: lot.quantity },
    model: { name: model.name, chemistry: profile.label, format: model.format },
    claim: claimLines(claim),
    claimedCapacityAh: claim.capacityAh?.value ?? null,
    cutoffV: claim.cutoffV.value,
    method: [
      ...methodWords(claim, items, undescribed),
      ...(await heldInTests(lab, model.format, { lines, figures, runs }, transaction)),
      ...(await reopenedWords(lab, lot.id, timeZone, transaction)),
    ],
    instruments: instrumentsThen(meters, made).map(instrumentLine),
    decisionRule: ruleWords(settings.guardFactor),
    ...gradesOf(scheme, items),
    items,
    lotPosition: positionOf(tested.length, values),
    notTested: notTestedWords(items),
    cautions: CAUTIONS,
  };
}
