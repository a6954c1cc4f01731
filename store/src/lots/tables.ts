import { columnTypes as c, type Session, Table, Tables } from '../base';
import type * as Rows from './rows';

/** Suppliers, models, lots with their claims, and cells. */
export class LotTables extends Tables {
  readonly suppliers;
  readonly cellModels;
  readonly lots;
  readonly claimItems;
  readonly cells;

  constructor(s: Session) {
    super(s);
    this.suppliers = new Table<Rows.SupplierRow>(s, 'suppliers', {
      id: c.autoId,
      name: c.text,
      place: c.text,
      notes: c.long,
      createdAt: c.moment,
      version: c.version,
    });
    this.cellModels = new Table<Rows.CellModelRow>(s, 'cell_models', {
      id: c.autoId,
      name: c.text,
      chemistry: c.text,
      format: c.text,
      diameterMm: c.real,
      widthMm: c.real,
      thicknessMm: c.real,
      heightMm: c.real,
      massG: c.real,
      ratedAh: c.real,
      rateIt: c.real,
      cutoffV: c.real,
      chargeV: c.real,
      temperatureC: c.real,
      acResistanceMohm: c.real,
      maxChargeA: c.real,
      maxDischargeA: c.real,
      dcResistanceMohm: c.real,
      taperIt: c.real,
      restMinutes: c.real,
      massTolerancePct: c.real,
      sizeTolerancePct: c.real,
      terminalType: c.text,
      terminalTorqueNm: c.real,
      createdAt: c.moment,
      version: c.version,
    });
    this.lots = new Table<Rows.LotRow>(s, 'lots', {
      id: c.autoId,
      code: c.text,
      title: c.text,
      supplierId: c.whole,
      modelId: c.whole,
      orderedOn: c.day,
      arrivedOn: c.day,
      takenAs: c.text,
      orderedQuantity: c.whole,
      quantity: c.whole,
      price: c.money,
      discount: c.money,
      freight: c.money,
      duty: c.money,
      fees: c.money,
      currency: c.text,
      cancelledAt: c.moment,
      cancelReason: c.text,
      createdAt: c.moment,
      version: c.version,
    });
    this.claimItems = new Table<Rows.ClaimItemRow>(
      s,
      'claim_items',
      {
        id: c.autoId,
        lotId: c.whole,
        kind: c.text,
        value: c.real,
        unit: c.text,
        text: c.text,
        conditions: c.long,
        version: c.version,
      },
      ['conditions'],
    );
    this.cells = new Table<Rows.CellRow>(s, 'cells', {
      id: c.autoId,
      lotId: c.whole,
      position: c.whole,
      number: c.text,
      label: c.text,
      box: c.text,
      packId: c.whole,
      groupIndex: c.whole,
      harvest: c.text,
      controlSince: c.day,
      retightenedAt: c.moment,
      version: c.version,
    });
  }
}
