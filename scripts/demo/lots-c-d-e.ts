import { randomUUID } from 'node:crypto';
import { RECOVERY_CAUTION } from '@dusk-tally/core/arrivals';
import { recordCharge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import {
  acknowledge,
  addLot,
  addModel,
  addPacks,
  addTemplate,
  breakDownPack,
  drawPlan,
  keepOffer,
  nameMaker,
  noteRecovery,
  releaseCell,
  scanCode,
} from '@dusk-tally/lab/arrivals';
import { importLog } from '@dusk-tally/lab/evidence';
import { addSupplier } from '@dusk-tally/lab/suppliers';
import { conditionTwo } from './conditioned';
import { cellCode, dayBefore, idsOf, inspect, read, receiveBox, type Stage } from './basics';

/** Lot C: packs out of rental scooters: a weak group, cells that are low, swollen or grow warm. */
// eslint-disable-next-line local/function-length -- A story told in its order.
export async function loadLotC(stage: Stage): Promise<void> {
  const { lab, admin, technician, now } = stage;
  const yard = await addSupplier(lab, admin, { name: 'Withy Yard Returns', place: 'Withy Yard' });
  const model = await addModel(lab, admin, {
    name: 'Reed pouch 20',
    chemistry: 'NMC',
    format: 'pouch',
    widthMm: 128,
    thicknessMm: 7.2,
    heightMm: 178,
    massG: 410,
    ratedAh: 20,
    rateIt: 0.2,
    cutoffV: 2.8,
    temperatureC: 25,
    terminalType: 'tab',
  });
  const lot = await addLot(lab, admin, {
    title: 'Scooter packs to break down',
    supplierId: yard.id,
    modelId: model.id,
    takenAs: 'packs',
    quantity: 0,
    orderedQuantity: 12,
    price: 410,
    discount: 16.4,
    freight: 38.5,
    orderedOn: dayBefore(now, 36),
    arrivedOn: dayBefore(now, 26),
    claim: [
      { kind: 'capacity', value: 20, conditions: { rateIt: 0.2, cutoffV: 2.8 } },
      { kind: 'condition', text: 'reclaimed, out of retired rental scooters' },
    ],
  });
  await receiveBox(stage, lot.id, { count: 0, entries: { packsCounted: 12 } });
  const packs = await addPacks(lab, technician, {
    lotId: lot.id,
    count: 12,
    label: '14.4 V 40 Ah',
    voltageV: 14.4,
    capacityAh: 40,
  });
  await acknowledge(lab, technician, { kind: 'breakdown' });
  for (const [i, pack] of packs.slice(0, 9).entries())
    await breakDownPack(lab, technician, {
      packId: pack.id,
      version: pack.version,
      chemistry: 'NMC',
      series: 4,
      parallel: 2,
      minutes: 24 + ((i * 5) % 11),
      states: i === 3 ? [{ group: 3, place: 1, harvest: 'dead' }] : [],
    });
  const ids = await idsOf(stage, lot.id);
  await inspect(
    stage,
    lot.id,
    [
      { code: 'swollen', cellIds: [ids[13]!] },
      { code: 'gas', cellIds: [ids[40]!, ids[41]!, ids[66]!] },
      { code: 'weld', cellIds: [ids[22]!] },
      { code: 'ownersMarks', cellIds: ids.slice(0, 8) },
    ],
    true,
  );
  const random = seededRandom(53);
  // Group 3 of the fourth pack leaks; three cells elsewhere stand low.
  const low = new Map([
    [28, 3.118],
    [29, 3.121],
    [35, 2.14],
    [50, 0.62],
    [61, 1.93],
  ]);
  await read(
    stage,
    lot.id,
    'openCircuitVoltage',
    ids,
    ids.map((_, i) => low.get(i) ?? 3.652 + 0.006 * random.normal()),
  );
  await releaseCell(lab, admin, { cellId: ids[61]!, caution: RECOVERY_CAUTION });
  await noteRecovery(lab, technician, {
    cellId: ids[61]!,
    act: 'heatCheck',
    minutes: 5,
    temperatureC: 24.1,
  });
  await noteRecovery(lab, technician, {
    cellId: ids[61]!,
    act: 'heat',
    minutes: 15,
    temperatureC: 36.8,
    note: 'warm on one side at 40 mA',
  });
  await read(
    stage,
    lot.id,
    'acResistance',
    ids,
    ids.map((_, i) => (i > 40 ? null : 2.6 + 0.12 * random.normal())),
  );
}

/** Lot D: sodium-ion, never cycled, one short on the count; a sample is drawn. */
export async function loadLotD(stage: Stage): Promise<void> {
  const { lab, admin, technician, now } = stage;
  const saltworks = await addSupplier(lab, admin, {
    name: 'Brineworks Cells',
    place: 'Salthouse Lane',
  });
  const model = await addModel(lab, admin, {
    name: 'Brine 26700',
    chemistry: 'sodium-ion',
    format: 'cylinder',
    diameterMm: 26,
    heightMm: 70,
    massG: 92,
    massTolerancePct: 3,
    ratedAh: 3.5,
    rateIt: 0.2,
    cutoffV: 1.8,
    temperatureC: 25,
    terminalType: 'flat',
  });
  await addTemplate(lab, admin, {
    name: 'Brineworks',
    pattern: '{plant:1}{year:2}{week:2}-{serial:5}',
  });
  const arrivedOn = dayBefore(now, 4);
  const year = Number(dayBefore(now, 90).slice(2, 4));
  const week = Math.max(1, Math.floor(Number(dayBefore(now, 90).slice(5, 7)) * 4.3) - 2);
  const lot = await addLot(lab, admin, {
    title: '26700 sodium-ion for rescue radios',
    supplierId: saltworks.id,
    modelId: model.id,
    quantity: 119,
    orderedQuantity: 120,
    price: 354,
    orderedOn: dayBefore(now, 19),
    arrivedOn,
    labels: Array.from(
      { length: 119 },
      (_, i) =>
        `S${String(year).padStart(2, '0')}${String(week + (i < 70 ? 0 : 1)).padStart(2, '0')}-${String(30_410 + i).padStart(5, '0')}`,
    ),
    boxes: Array.from({ length: 119 }, (_, i) => `tray ${Math.floor(i / 40) + 1}`),
    claim: [
      {
        kind: 'capacity',
        value: 3.5,
        conditions: { rateIt: 0.2, cutoffV: 1.8, statedAs: 'typical' },
      },
      { kind: 'acResistance', value: 18 },
      { kind: 'condition', text: 'new, never cycled' },
      { kind: 'mass', value: 92, conditions: { tolerancePct: 3 } },
    ],
  });
  await receiveBox(stage, lot.id, {
    count: 119,
    entries: { netG: 10_905, scaleToleranceG: 20 },
  });
  const ids = await idsOf(stage, lot.id);
  await inspect(stage, lot.id, [{ code: 'label', cellIds: [ids[7]!, ids[90]!] }], true);
  const random = seededRandom(59);
  await read(
    stage,
    lot.id,
    'openCircuitVoltage',
    ids,
    ids.map((_, i) => (i >= 80 ? null : 2.412 + 0.002 * random.normal())),
  );
  await drawPlan(lab, technician, {
    lotId: lot.id,
    plan: { method: 'attributes', level: 'II', aql: '1.5' },
    seed: 20_417,
  });
  await firstCharges(stage, lot.id, ids.slice(0, 24));
  await conditionTwo(stage, lot.id, [ids[3]!, ids[20]!]);
}

/** First charges of cells that never cycled: some rise early, one of them no more after cycling. */
async function firstCharges(stage: Stage, lotId: number, ids: number[]): Promise<void> {
  const random = seededRandom(61);
  const rising = new Set([3, 11, 17]);
  const channels = [0, 1, 3].map((i) => stage.channels.west[i]!);
  const charge = (i: number, risesEarlyV: number, name: string) => {
    const rows = recordCharge(
      { ...typicalCell('sodium-ion', 3.5), capacityAh: 3.55 + 0.02 * random.normal() },
      {
        currentA: 0.7,
        chargeV: 3.9,
        taperA: 0.17,
        intervalS: 30,
        restBeforeS: 600,
        ambientC: 23.5,
        seed: 6200 + i,
        from: 0.02,
        risesEarlyV: risesEarlyV + 0.001 * random.normal(),
      },
    );
    return importLog(stage.lab, stage.technician, {
      lotId,
      cellId: ids[i]!,
      channelId: channels[i % 3]!,
      fileName: `${name} ${i + 1}.csv`,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
  };
  // One of those that rise early is told of by the tests before and after its conditioning.
  for (let i = 0; i < ids.length; i++)
    if (i !== 3) await charge(i, rising.has(i) ? 0.06 : 0, 'first charge');
}

/** Lot E: a claim no such can could hold, light by weight, serials that stand twice. */
export async function loadLotE(stage: Stage): Promise<void> {
  const { lab, admin, technician, now } = stage;
  const market = await addSupplier(lab, admin, {
    name: 'Fenlight Bargains',
    place: 'Causeway End',
  });
  const model = await addModel(lab, admin, {
    name: 'Glim 26650',
    chemistry: 'NMC',
    format: 'cylinder',
    diameterMm: 26,
    heightMm: 65,
    cutoffV: 2.5,
  });
  const arrivedOn = dayBefore(now, 1);
  const made = dayBefore(now, 61);
  const lot = await addLot(lab, admin, {
    title: '26650, the big claim',
    supplierId: market.id,
    modelId: model.id,
    quantity: 60,
    orderedQuantity: 60,
    price: 149,
    orderedOn: dayBefore(now, 12),
    arrivedOn,
    claim: [
      { kind: 'capacity', value: 9.9, conditions: {} },
      { kind: 'grade', text: 'grade A+' },
      { kind: 'condition', text: 'brand new' },
      { kind: 'mass', value: 95, conditions: { tolerancePct: 3 } },
    ],
  });
  await keepOffer(lab, technician, {
    lotId: lot.id,
    text: '26650 NMC 9900 mAh brand new grade A+, 60 pcs, 95 g each, no returns',
  });
  await nameMaker(lab, admin, { code: '0FZ', name: 'Fennick demo works' });
  await receiveBox(stage, lot.id, {
    count: 60,
    entries: { grossG: 4_760, tareG: 490, scaleToleranceG: 5 },
  });
  const ids = await idsOf(stage, lot.id);
  for (const [i, cellId] of ids.slice(0, 40).entries()) {
    // Four labels were printed twice.
    const copied = i >= 36;
    await scanCode(lab, technician, {
      lotId: lot.id,
      clientKey: randomUUID(),
      text: cellCode('E', made, 700_100 + (copied ? i - 30 : i)),
      cellId,
      copied,
    });
  }
  await read(stage, lot.id, 'mass', ids.slice(0, 5), [71.4, 70.9, 71.8, 71.1, 70.6]);
}
