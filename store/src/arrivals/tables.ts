import type * as Rows from './rows';
import { columnTypes as c, QueryTypes, Table, Tables, type Transaction } from '../base';

const who = { personId: c.whole, at: c.moment };

/** Tables of arrivals, and the few queries on them that are more than rows. */
export class ArrivalTables extends Tables {
  readonly chemistryProfiles = new Table<Rows.ChemistryProfileRow>(
    this.session,
    'chemistry_profiles',
    { id: c.autoId, chemistry: c.text, profile: c.long, reason: c.text, ...who },
    ['profile'],
  );
  readonly offers = new Table<Rows.OfferRow>(this.session, 'offers', {
    id: c.autoId,
    lotId: c.whole,
    text: c.long,
    ...who,
  });
  readonly photos = new Table<Rows.PhotoRow>(this.session, 'photos', {
    id: c.autoId,
    lotId: c.whole,
    subjectType: c.text,
    subjectId: c.whole,
    name: c.text,
    sha256: c.text,
    width: c.whole,
    height: c.whole,
    image: c.bytes,
    thumb: c.bytes,
    ...who,
  });
  readonly photoMarks = new Table<Rows.PhotoMarkRow>(this.session, 'photo_marks', {
    id: c.autoId,
    photoId: c.whole,
    aside: c.flag,
    reason: c.text,
    ...who,
  });
  readonly clientBatches = new Table<Rows.ClientBatchRow>(this.session, 'client_batches', {
    id: c.ownText,
    at: c.moment,
  });
  readonly receiving = new Table<Rows.ReceivingEntryRow>(
    this.session,
    'receiving_entries',
    { id: c.autoId, lotId: c.whole, field: c.text, value: c.long, ...who },
    ['value'],
  );
  readonly inspections = new Table<Rows.InspectionEntryRow>(this.session, 'inspection_entries', {
    id: c.autoId,
    lotId: c.whole,
    cellId: c.whole,
    act: c.text,
    code: c.text,
    findingId: c.whole,
    note: c.text,
    before: c.text,
    readingId: c.whole,
    ...who,
  });
  readonly codeScans = new Table<Rows.CodeScanRow>(this.session, 'code_scans', {
    id: c.autoId,
    lotId: c.whole,
    cellId: c.whole,
    code: c.text,
    outcome: c.text,
    ...who,
  });
  readonly codeTemplates = new Table<Rows.CodeTemplateRow>(this.session, 'code_templates', {
    id: c.autoId,
    name: c.text,
    pattern: c.text,
    active: c.flag,
    version: c.version,
  });
  readonly makerCodes = new Table<Rows.MakerCodeRow>(this.session, 'maker_codes', {
    id: c.autoId,
    code: c.text,
    name: c.text,
    version: c.version,
  });
  readonly recoveries = new Table<Rows.RecoveryEntryRow>(this.session, 'recovery_entries', {
    id: c.autoId,
    lotId: c.whole,
    cellId: c.whole,
    act: c.text,
    protocol: c.text,
    protocolVersion: c.whole,
    mostA: c.real,
    minutes: c.real,
    temperatureC: c.real,
    note: c.text,
    ...who,
  });
  readonly packs = new Table<Rows.PackRow>(this.session, 'packs', {
    id: c.autoId,
    lotId: c.whole,
    number: c.text,
    label: c.text,
    voltageV: c.real,
    capacityAh: c.real,
    energyWh: c.real,
    chemistry: c.text,
    series: c.whole,
    parallel: c.whole,
    cellAh: c.real,
    minutes: c.real,
    openedAt: c.moment,
    openedBy: c.whole,
    version: c.version,
  });
  readonly acknowledgements = new Table<Rows.AcknowledgementRow>(this.session, 'acknowledgements', {
    id: c.autoId,
    personId: c.whole,
    kind: c.text,
    day: c.day,
    at: c.moment,
  });
  readonly samplingPlans = new Table<Rows.SamplingPlanRow>(
    this.session,
    'sampling_plans',
    {
      id: c.autoId,
      lotId: c.whole,
      method: c.text,
      parameters: c.long,
      lotSize: c.whole,
      sampleSize: c.whole,
      acceptance: c.whole,
      seed: c.whole,
      cellIds: c.long,
      strata: c.long,
      reason: c.text,
      ...who,
    },
    ['parameters', 'cellIds', 'strata'],
  );
  readonly samplingResults = new Table<Rows.SamplingResultRow>(this.session, 'sampling_results', {
    id: c.autoId,
    planId: c.whole,
    cellId: c.whole,
    state: c.text,
    value: c.real,
    reason: c.text,
    personId: c.whole,
    at: c.moment,
  });
  readonly cells = new Table<Rows.CellArrivalRow>(this.session, 'cell_arrivals', {
    cellId: c.ownId,
    lotId: c.whole,
    inspected: c.flag,
    worst: c.text,
    findings: c.text,
    graded: c.text,
    found: c.text,
    producedOn: c.day,
    producedUntil: c.day,
    firstV: c.real,
    lowestV: c.real,
    newestV: c.real,
    triage: c.text,
    triageReason: c.text,
    gate: c.text,
  });

  /** The newest entry of each field of a lot, or of each of some lots. */
  newestReceiving(
    lotId: number | readonly number[],
    transaction?: Transaction,
  ): Promise<Rows.ReceivingEntryRow[]> {
    const lotIds = [lotId].flat();
    if (lotIds.length === 0) return Promise.resolve([]);
    return this.session
      .rows<Rows.ReceivingEntryRow>(
        `SELECT * FROM receiving_entries WHERE id IN
          (SELECT MAX(id) FROM receiving_entries WHERE lotId IN (:lotIds) GROUP BY lotId, field)`,
        { type: QueryTypes.SELECT, replacements: { lotIds }, transaction },
      )
      .then((rows) => rows.map((row) => ({ ...row, value: JSON.parse(row.value as string) })));
  }

  /** One entry for each of many cells, in one statement. */
  async markCells(
    entry: Pick<Rows.InspectionEntryRow, 'lotId' | 'act' | 'code' | 'note' | 'personId' | 'at'>,
    cellIds: number[],
    transaction: Transaction,
  ): Promise<void> {
    await this.session.run(
      `INSERT INTO inspection_entries (lotId, cellId, act, code, note, personId, at)
       SELECT lotId, id, :act, :code, :note, :personId, :at FROM cells
        WHERE lotId = :lotId AND id IN (:cellIds)`,
      { type: QueryTypes.INSERT, replacements: { ...entry, cellIds }, transaction },
    );
  }

  /** How many cells of some lots stand alike in what their arrival waits for. */
  async cellStates(lotIds: readonly number[]): Promise<Rows.CellStateCount[]> {
    if (lotIds.length === 0) return [];
    const rows = await this.session.rows<
      Omit<Rows.CellStateCount, 'inspected' | 'isRead'> & { inspected: number; isRead: number }
    >(
      `SELECT lotId, gate, inspected, firstV IS NOT NULL AS isRead, triage, COUNT(*) AS count
         FROM cell_arrivals WHERE lotId IN (:lotIds)
        GROUP BY lotId, gate, inspected, firstV IS NOT NULL, triage`,
      { type: QueryTypes.SELECT, replacements: { lotIds } },
    );
    return rows.map(({ inspected, isRead, ...row }) => ({
      ...row,
      inspected: inspected === 1,
      isRead: isRead === 1,
    }));
  }

  /** How many cells of some lots carry a code of their own. */
  codeCounts(lotIds: readonly number[]): Promise<{ lotId: number; count: number }[]> {
    if (lotIds.length === 0) return Promise.resolve([]);
    return this.session.rows(
      `SELECT lotId, COUNT(*) AS count FROM cells
        WHERE lotId IN (:lotIds) AND label IS NOT NULL AND label <> '' GROUP BY lotId`,
      { type: QueryTypes.SELECT, replacements: { lotIds } },
    );
  }

  /** Voltage at arrival of each cell: its readings taken on arrival, in order. */
  voltages(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<{ cellId: number; id: number; value: number | null }[]> {
    if (cellIds?.length === 0) return Promise.resolve([]);
    return this.session.rows(
      `SELECT cellId, id, value FROM readings
        WHERE lotId = :lotId AND kind = 'openCircuitVoltage' AND purpose = 'arrival'
          ${cellIds ? 'AND cellId IN (:cellIds)' : ''} ORDER BY id`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
  }

  /** Codes of a lot's cells that cells of other lots carry too: the code and where. */
  codesElsewhere(lotId: number): Promise<{ code: string; number: string; lot: string }[]> {
    return this.session.rows(
      `SELECT o.label AS code, MIN(o.number) AS number, MIN(l.code) AS lot
         FROM cells c JOIN cells o ON o.label = c.label AND o.lotId <> c.lotId
         JOIN lots l ON l.id = o.lotId
        WHERE c.lotId = :lotId AND c.label IS NOT NULL GROUP BY o.label`,
      { type: QueryTypes.SELECT, replacements: { lotId } },
    );
  }
}
