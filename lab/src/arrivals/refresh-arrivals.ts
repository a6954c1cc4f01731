import {
  type CellStep,
  DEEP_DISCHARGE_V,
  findingKind,
  gateOf,
  readCode,
  type RecoveryOutcome,
  type Severity,
  TRIAGE_PROTOCOLS,
  triageCell,
  type TriageProtocol,
  type TriageSchool,
  worstSeverity,
} from '@dusk-tally/core/arrivals';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import type {
  CellArrivalRow,
  CellRow,
  InspectionEntryRow,
  RecoveryEntryRow,
  Transaction,
} from '@dusk-tally/store';
import { groupedBy, type Lab } from '../shared';
import { loadClaim } from '../lots';
import { codeReaders } from './code-rules';

/** A finding of a cell as it stands now. */
export interface StandingFinding {
  id: number;
  code: string;
  severity: Severity;
  state: 'open' | 'madeGood' | 'withdrawn';
  entry: InspectionEntryRow;
  /** What made it good, or took it back. */
  settledBy: InspectionEntryRow | null;
}

/** Findings of one cell from its entries, oldest first. */
export function findingsOfEntries(entries: readonly InspectionEntryRow[]): StandingFinding[] {
  const settled = new Map(
    entries.filter((entry) => entry.findingId !== null).map((entry) => [entry.findingId!, entry]),
  );
  return entries
    .filter((entry) => entry.act === 'finding')
    .map((entry) => {
      const settledBy = settled.get(entry.id) ?? null;
      return {
        id: entry.id,
        code: entry.code!,
        severity: findingKind(entry.code!).severity,
        state: settledBy ? (settledBy.act as 'madeGood' | 'withdrawn') : 'open',
        entry,
        settledBy,
      };
    });
}

/** Found by a scan or a measurement, which is no look at the cell. */
const byInstrument = ({ code, entry }: StandingFinding): boolean =>
  code === 'copiedCode' || (entry.note?.startsWith('measured') ?? false);

const isInspected = (entries: readonly InspectionEntryRow[], standing: StandingFinding[]) =>
  entries.some((entry) => entry.act === 'clear') ||
  standing.some((finding) => finding.state !== 'withdrawn' && !byInstrument(finding));

function gradedAs(inspected: boolean, standing: StandingFinding[]): CellArrivalRow['graded'] {
  if (!inspected) return null;
  const kept = standing.filter((finding) => finding.state !== 'withdrawn');
  return (
    worstSeverity(kept.map(({ severity, state }) => (state === 'madeGood' ? 'note' : severity))) ??
    'none'
  );
}

/** What the lab decided for a whole lot while receiving it. */
export interface LotRules {
  school: TriageSchool;
  skipped: CellStep[];
}

export async function lotRules(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<LotRules> {
  const entries = await lab.store.arrivals.newestReceiving(lotId, transaction);
  const value = (field: string) => entries.find((entry) => entry.field === field)?.value;
  const skips: [string, CellStep][] = [
    ['skip:inspection', 'inspection'],
    ['skip:readings', 'firstVoltage'],
  ];
  return {
    school: value('school') === 'recovery' ? 'recovery' : 'careful',
    skipped: skips.flatMap(([field, step]) => (value(field) === true ? [step] : [])),
  };
}

const byCellId = <T extends { cellId: number }>(rows: readonly T[]): Map<number, T[]> =>
  groupedBy(rows, ({ cellId }) => cellId);

/** First, lowest and newest voltage from readings in order; one without a value takes back the one before. */
export function voltagesOf(readings: readonly { value: number | null }[]): {
  firstV: number;
  lowestV: number;
  newestV: number;
} | null {
  const kept: number[] = [];
  for (const { value } of readings) {
    if (value === null) kept.pop();
    else kept.push(value);
  }
  if (kept.length === 0) return null;
  return {
    firstV: kept[0]!,
    lowestV: Math.min(...kept),
    newestV: kept[kept.length - 1]!,
  };
}

export interface ArrivalEvidence {
  entries: InspectionEntryRow[];
  readings: { value: number | null }[];
  recoveries: RecoveryEntryRow[];
}

const ENDED = new Set(['recovered', 'noRise', 'heat']);

type CodeReaders = Awaited<ReturnType<typeof codeReaders>>;

/** What the arrival of a lot’s cells is judged by. */
export interface ArrivalContext {
  lotId: number;
  arrivedOn: string | null;
  chemistry: Chemistry;
  protocol: TriageProtocol;
  skipped: readonly CellStep[];
  read: CodeReaders;
}

export async function arrivalContext(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<ArrivalContext> {
  const { lot, model } = await loadClaim(lab, lotId, transaction);
  const rules = await lotRules(lab, lotId, transaction);
  return {
    lotId,
    arrivedOn: lot.arrivedOn,
    chemistry: model.chemistry,
    protocol: TRIAGE_PROTOCOLS[rules.school],
    skipped: rules.skipped,
    read: await codeReaders(lab, transaction),
  };
}

/** Where a cell stands between the box and the bench, from the evidence of its arrival. Pure. */
export function arrivalRow(
  { lotId, arrivedOn, chemistry, protocol, skipped, read }: ArrivalContext,
  cell: Pick<CellRow, 'id' | 'label'>,
  evidence: ArrivalEvidence,
): CellArrivalRow {
  const standing = findingsOfEntries(evidence.entries);
  const open = standing.filter((finding) => finding.state === 'open');
  const volts = voltagesOf(evidence.readings);
  const ended = [...evidence.recoveries].reverse().find((entry) => ENDED.has(entry.act));
  const triage = volts
    ? triageCell(protocol, chemistry, {
        ...volts,
        released: evidence.recoveries.some((entry) => entry.act === 'released'),
        recovery: (ended?.act as RecoveryOutcome | undefined) ?? null,
      })
    : null;
  const inspected = isInspected(evidence.entries, standing);
  const worst = worstSeverity(open.map((finding) => finding.severity));
  const code = cell.label ? readCode(cell.label, read, { arrivedOn }) : null;
  return {
    cellId: cell.id,
    lotId,
    inspected,
    worst,
    findings: JSON.stringify([...new Set(open.map((finding) => finding.code))]).slice(0, 400),
    graded: gradedAs(inspected, standing),
    found: JSON.stringify([
      ...new Set(standing.flatMap(({ state, code }) => (state === 'withdrawn' ? [] : [code]))),
    ]).slice(0, 600),
    producedOn: code?.ok ? code.producedFrom : null,
    producedUntil: code?.ok ? (code.producedUntil ?? code.producedFrom) : null,
    firstV: volts?.firstV ?? null,
    lowestV: volts?.lowestV ?? null,
    newestV: volts?.newestV ?? null,
    triage: triage?.outcome ?? null,
    triageReason: triage?.reason ?? null,
    gate: gateOf({ worst, inspected, triage, skipped }),
  };
}

/** Makes again where cells of a lot stand between the box and the bench; rows that stay are not written. */
export async function refreshArrivals(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
): Promise<number[]> {
  const { store } = lab;
  const { arrivals } = store;
  const context = await arrivalContext(lab, lotId, transaction);
  const where = cellIds ? { lotId, cellId: cellIds } : { lotId };
  const cells = await store.cells.find(cellIds ? { lotId, id: cellIds } : { lotId }, {
    transaction,
    columns: ['id', 'label'],
  });
  // Locked first, so that two people's marks on one cell are both in what the second one writes.
  const before = await arrivals.cells.find(where, { transaction, forUpdate: true });
  const [entries, recoveries, readings] = [
    byCellId(await arrivals.inspections.find(where, { transaction, order: [['id', 'ASC']] })),
    byCellId(await arrivals.recoveries.find(where, { transaction, order: [['id', 'ASC']] })),
    byCellId(await arrivals.voltages(lotId, cellIds, transaction)),
  ];
  const known = new Map(before.map((row) => [row.cellId, row]));
  const changed: CellArrivalRow[] = [];
  for (const cell of cells) {
    const row = arrivalRow(context, cell, {
      entries: entries.get(cell.id) ?? [],
      readings: readings.get(cell.id) ?? [],
      recoveries: recoveries.get(cell.id) ?? [],
    });
    const was = known.get(cell.id);
    if (!was || keyOf(was) !== keyOf(row)) changed.push(row);
  }
  await writeArrivals(lab, changed, known, transaction);
  return changed.map((row) => row.cellId);
}

/** Everything of a row but whose it is, as one text. */
const keyOf = (row: CellArrivalRow): string =>
  [
    row.inspected,
    row.worst,
    row.findings,
    row.found,
    row.graded,
    row.producedOn,
    row.producedUntil,
    row.firstV,
    row.lowestV,
    row.newestV,
    row.triage,
    row.triageReason,
    row.gate,
  ].join('|');

/** Rows that became alike are written in one statement each; ten thousand cells are a few. */
async function writeArrivals(
  lab: Lab,
  rows: CellArrivalRow[],
  known: ReadonlyMap<number, CellArrivalRow>,
  transaction: Transaction,
): Promise<void> {
  const { cells } = lab.store.arrivals;
  const alike = new Map<string, CellArrivalRow[]>();
  const single: CellArrivalRow[] = [];
  for (const row of rows) {
    if (!known.has(row.cellId)) single.push(row);
    else {
      const key = keyOf(row);
      const group = alike.get(key);
      if (group) group.push(row);
      else alike.set(key, [row]);
    }
  }
  for (const group of alike.values()) {
    if (group.length < 20) {
      single.push(...group);
      continue;
    }
    const { cellId: _cell, lotId: _lot, ...patch } = group[0]!;
    await cells.update(patch, { cellId: group.map((row) => row.cellId) }, transaction);
  }
  if (single.length > 0) await cells.replaceMany(single, transaction);
}

/** Whether a cell carries the mark of a deep discharge for life. */
export const wasDeep = (arrival: Pick<CellArrivalRow, 'lowestV'>): boolean =>
  arrival.lowestV !== null && arrival.lowestV < DEEP_DISCHARGE_V;
