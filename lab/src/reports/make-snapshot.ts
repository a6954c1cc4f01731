import { CLAIM_ITEMS, DEEP_DISCHARGE_V, findingKind } from '@dusk-tally/core/arrivals';
import { calibrationState, decodeCurve, type Accuracy } from '@dusk-tally/core/evidence';
import { histogram, mean, standardDeviation } from '@dusk-tally/core/statistics';
import { dayIn, formatNumber } from '@dusk-tally/core/units';
import { SHIPPED_SCHEME, VERDICT_WORDS } from '@dusk-tally/core/verdicts';
import type {
  CellArrivalRow,
  FigureRow,
  InstrumentRow,
  RunRow,
  Transaction,
} from '@dusk-tally/store';
import { type EffectiveClaim, labTimeZone, loadClaim } from '../lots';
import { found, type Lab } from '../shared';
import { type CellLine, cellLines, standingFigures } from '../verdicts';
import { CAUTIONS, type ReportedFigure, type ReportedItem, type ReportSnapshot } from '../compute';

/** Points of a printed curve. */
const PRINTED_POINTS = 90;

export interface SnapshotRequest {
  lotId: number;
  cellIds: number[];
  customer: string;
  number: string;
  issuedBy: string;
}

type Slim = Omit<FigureRow, 'detail'>;

function reported(figure: Slim | undefined): ReportedFigure | null {
  if (!figure) return null;
  const { value, unit, bound, method, methodVersion, standardUncertainty } = figure;
  return {
    value,
    U: standardUncertainty === null ? null : 2 * standardUncertainty,
    unit,
    bound,
    method,
    methodVersion,
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

/** Condition of an item when it came, in words. */
function arrivalWords(arrival: CellArrivalRow | undefined): string[] {
  if (!arrival) return [];
  const findings = (JSON.parse(arrival.findings) as string[]).map(
    (code) => findingKind(code).words,
  );
  return [
    arrival.inspected
      ? `inspected: ${findings.length > 0 ? findings.join(', ') : 'nothing found'}`
      : 'not inspected',
    ...(arrival.firstV === null ? [] : [`first voltage ${arrival.firstV.toFixed(3)} V`]),
    ...(arrival.producedOn === null ? [] : [`produced ${arrival.producedOn} by its code`]),
    ...(arrival.lowestV !== null && arrival.lowestV < DEEP_DISCHARGE_V
      ? [`was below 1.0 V once (${arrival.lowestV.toFixed(2)} V)`]
      : []),
  ];
}

function itemOf(
  line: CellLine,
  figures: Slim[],
  run: RunRow | undefined,
  rank: number | null,
  arrival: CellArrivalRow | undefined,
  overdue: OverdueAt,
  timeZone: string,
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
        ? VERDICT_WORDS[line.verdict]
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
    curve: curveOfRun(run),
  };
}

const FROM = { claim: '', model: ' (data sheet)', chemistry: ' (usual for the chemistry)' };

/** The claim in words, each part with where it comes from unless the supplier stated it. */
function claimLines(claim: EffectiveClaim): ReportSnapshot['claim'] {
  return claim.items.map((item) => {
    const { words, unit, conditions: specs } = CLAIM_ITEMS[item.kind];
    const bound =
      item.kind === 'capacity' ? 'at least ' : item.kind.endsWith('Resistance') ? 'at most ' : '';
    const conditions = item.conditions.map(({ name, value, from }) => {
      const spec = specs.find((candidate) => candidate.name === name)!;
      const shown = spec.choices?.[value] ?? `${value}${spec.unit ? ` ${spec.unit}` : ''}`;
      return `${spec.words} ${shown}${FROM[from]}`;
    });
    const missing = (name: string, said: string) =>
      item.kind === 'capacity' && !item.conditions.some((c) => c.name === name) ? [said] : [];
    return {
      name: words,
      value: `${bound}${item.value === null ? item.text : `${item.value}${unit ? ` ${unit}` : ''}`}${FROM[item.from]}`,
      conditions: [
        ...(item.kind === 'acResistance' ? ['1 kHz'] : []),
        ...conditions,
        ...missing('rateIt', 'rate not stated'),
        ...missing('temperatureC', 'temperature not stated'),
      ].join(', '),
    };
  });
}

function accuracyWords(instrument: InstrumentRow): string {
  if (instrument.kind === 'tester') {
    const a = instrument.accuracy as Accuracy;
    return `current ±(${a.currentGainPct} % + ${formatNumber(a.currentOffsetA * 1000, 1)} mA), voltage ±(${a.voltageGainPct} % + ${formatNumber(a.voltageOffsetV * 1000, 1)} mV)`;
  }
  const a = instrument.accuracy as { gainPct: number; offset: number };
  return `±(${a.gainPct} % + ${a.offset} ${instrument.kind === 'acMeter' ? 'mΩ' : 'V'})`;
}

function calibrationWords(instrument: InstrumentRow, today: string): string {
  if (!instrument.calibratedOn) return 'no calibration date recorded';
  const overdue = instrument.dueOn && instrument.dueOn < today ? ' (overdue)' : '';
  return `calibrated ${instrument.calibratedOn}${instrument.dueOn ? `, due ${instrument.dueOn}${overdue}` : ''}`;
}

function methodWords(claim: EffectiveClaim, undescribed: boolean): string[] {
  return [
    `Capacity: each cell was discharged at constant current; charge was integrated by the trapezoid rule from load-on to the first time the terminal voltage fell to ${claim.cutoffV.value} V, interpolated inside the interval. Energy likewise.`,
    'DC resistance: voltage before load-on less voltage 10 s after it, over the current.',
    'AC resistance: at 1 kHz, four-wire, on the terminals. AC and DC resistance are different quantities and are not compared.',
    'A result marked “at least” comes from a discharge that ended above the cut-off.',
    ...(undescribed
      ? [
          'Where no instrument is named, the house default accuracy of an instrument not described was used: current 0.5 % and 0.1 % of the largest current, voltage 10 mV; AC resistance 2 %.',
        ]
      : []),
  ];
}

function ruleWords(guardFactor: number): string[] {
  const base =
    guardFactor > 0
      ? `Decision rule: guard band w = ${guardFactor === 1 ? '' : `${guardFactor} × `}U (after ILAC-G8:09/2019). “Met” when the result is inside the limit by at least w, “not met” when it is outside by more than w, “too close to call” between.`
      : 'Decision rule: simple acceptance, no guard band. The risk of a wrong verdict near the limit is up to 50 %.';
  return [
    'Uncertainties are expanded uncertainties U with k = 2 (JCGM 100), about 95 % coverage.',
    base,
  ];
}

/** Says that a channel’s calibration had run out on the day of a test. */
type OverdueAt = (channelId: number | null, day: string) => string[];

async function overdueChannels(lab: Lab, transaction: Transaction): Promise<OverdueAt> {
  const channels = await lab.store.meters.channels.find({}, { transaction });
  const instruments = await lab.store.instruments.find({}, { transaction });
  const instrument = new Map(instruments.map((row) => [row.id, row]));
  const byId = new Map(channels.map((row) => [row.id, row]));
  return (channelId, day) => {
    const channel = channelId === null ? undefined : byId.get(channelId);
    const tester = channel ? instrument.get(channel.instrumentId) : undefined;
    const due = channel?.dueOn ?? tester?.dueOn ?? null;
    if (!channel || !tester || calibrationState(due, day) !== 'overdue') return [];
    return [
      `Calibration of ${tester.name}, ${channel.name} was overdue on the day of the test (due ${due}).`,
    ];
  };
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
  const lines = await cellLines(lab, lot.id);
  const wanted = new Set(request.cellIds);
  const figures = await standingFigures(lab, lot.id, request.cellIds, transaction);
  const overdue = await overdueChannels(lab, transaction);
  const timeZone = await labTimeZone(lab, transaction);
  const capacityRuns = new Map<number, number>(
    figures
      .filter(({ quantity }) => quantity === 'capacity' || quantity === 'capacityAtClaim')
      .flatMap((figure) => (figure.runId ? [[figure.id, figure.runId]] : [])),
  );
  const runs = await store.runs.find(
    { cellId: request.cellIds },
    { transaction, order: [['id', 'ASC']] },
  );
  const readings = await store.evidence.latestReadings(lot.id, request.cellIds, transaction);
  const instrumentIds = new Set([...runs, ...readings].flatMap((row) => row.instrumentId ?? []));
  const instruments =
    instrumentIds.size > 0
      ? await store.instruments.find(
          { id: [...instrumentIds] },
          { transaction, order: [['name', 'ASC']] },
        )
      : [];
  const personIds = new Set([...runs, ...readings].map((row) => row.personId));
  const people =
    personIds.size > 0
      ? await store.people.find({ id: [...personIds] }, { transaction, columns: ['id', 'name'] })
      : [];
  const tested = lines.filter(
    (line) =>
      line.capacityAh !== null && line.bound === 'exact' && line.comparable && line.held === null,
  );
  const values = tested.map((line) => line.capacityAh!);
  const arrivals = await store.arrivals.cells.find({ cellId: request.cellIds }, { transaction });
  const arrivalOf = new Map(arrivals.map((arrival) => [arrival.cellId, arrival]));
  const order = [...values].sort((a, b) => b - a);
  const items = lines
    .filter((line) => wanted.has(line.id))
    .map((line) => {
      const runId = line.capacityFigureId ? capacityRuns.get(line.capacityFigureId) : undefined;
      const rank =
        line.capacityAh !== null && line.bound === 'exact' && line.comparable
          ? order.indexOf(line.capacityAh) + 1
          : null;
      return itemOf(
        line,
        figures.filter((figure) => figure.cellId === line.id),
        runs.find((run) => run.id === runId),
        rank,
        arrivalOf.get(line.id),
        overdue,
        timeZone,
      );
    });
  const issuedAt = lab.now().toISOString();
  const undescribed = [...runs, ...readings].some((row) => row.instrumentId === null);
  return {
    format: 'dusk-tally/buyer-report',
    formatVersion: 3,
    number: request.number,
    issuedAt,
    lab: { name: settings.labName, place: settings.place },
    customer: request.customer,
    issuedBy: request.issuedBy,
    testedBy: people.map((person) => person.name).sort(),
    lot: { code: lot.code, title: lot.title, receivedOn: lot.arrivedOn, cells: lot.quantity },
    model: {
      name: model.name,
      chemistry: profile.label,
      format: model.format,
    },
    claim: claimLines(claim),
    claimedCapacityAh: claim.capacityAh?.value ?? null,
    cutoffV: claim.cutoffV.value,
    method: methodWords(claim, undescribed),
    instruments: instruments.map((row) => ({
      name: row.name,
      serial: row.serial,
      accuracy: accuracyWords(row),
      calibration: calibrationWords(row, issuedAt.slice(0, 10)),
    })),
    decisionRule: ruleWords(settings.guardFactor),
    gradeScheme: `${SHIPPED_SCHEME.name}, version ${SHIPPED_SCHEME.version}`,
    items,
    lotPosition: {
      tested: tested.length,
      mean: values.length > 0 ? mean(values) : null,
      standardDeviation: values.length > 1 ? standardDeviation(values) : null,
      minimum: values.length > 0 ? Math.min(...values) : null,
      bins: histogram(values),
    },
    notTested: notTestedWords(items),
    cautions: CAUTIONS,
  };
}

function notTestedWords(items: ReportedItem[]): string[] {
  const lacking = (pick: (item: ReportedItem) => unknown, words: string) => {
    const numbers = items.filter((item) => pick(item) === null).map((item) => item.number);
    if (numbers.length === 0) return [];
    return [
      numbers.length === items.length
        ? `${words}: all items.`
        : `${words}: ${numbers.length > 12 ? `${numbers.length} items` : numbers.join(', ')}.`,
    ];
  };
  return [
    ...lacking((item) => item.capacity, 'Without a capacity test'),
    ...lacking((item) => item.acResistance, 'Without an AC resistance reading'),
    'Self-discharge at rest is not part of this report.',
  ];
}
