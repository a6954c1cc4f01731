import { seededRandom } from '@dusk-tally/core/statistics';
import {
  addLot,
  addModel,
  drawPlan,
  keepOffer,
  lotFindings,
  makeGood,
} from '@dusk-tally/lab/arrivals';
import { addSupplier } from '@dusk-tally/lab/suppliers';
import { cellCode, dayBefore, idsOf, inspect, read, receiveBox, type Stage } from './basics';
import { retestOnDrifting, runControls } from './channels';
import { testLot } from './tests-of-lots';
import { keepBooks } from '@dusk-tally/lab/money';
import { watchSixteen } from './watched-string';

/** Lot A: sound, but two production dates lie mixed in it: two humps in capacity. */
// eslint-disable-next-line local/function-length -- A story told in its order.
export async function loadLotA(stage: Stage): Promise<{ later: () => Promise<void> }> {
  const { lab, admin, technician, now } = stage;
  const quay = await addSupplier(lab, admin, { name: 'Saltmarsh Cell Trade', place: 'Quay Row' });
  const model = await addModel(lab, admin, {
    name: 'Marl 32700',
    chemistry: 'LFP',
    format: 'cylinder',
    diameterMm: 32,
    heightMm: 70,
    massG: 145,
    massTolerancePct: 3,
    ratedAh: 6,
    rateIt: 0.2,
    cutoffV: 2.5,
    temperatureC: 25,
    taperIt: 0.05,
    restMinutes: 60,
    terminalType: 'flat',
  });
  const older = (i: number) => (i * 7) % 8 >= 5;
  const lot = await addLot(lab, admin, {
    title: '32700 for tide gauges',
    supplierId: quay.id,
    modelId: model.id,
    quantity: 240,
    orderedQuantity: 240,
    price: 1128,
    freight: 46,
    orderedOn: dayBefore(now, 40),
    arrivedOn: dayBefore(now, 22),
    labels: Array.from({ length: 240 }, (_, i) =>
      cellCode('B', dayBefore(now, older(i) ? 214 : 96), 51_200 + 2 * i),
    ),
    boxes: Array.from({ length: 240 }, (_, i) => `box ${Math.floor(i / 60) + 1}`),
    claim: [
      {
        kind: 'capacity',
        value: 6,
        conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25, statedAs: 'minimum' },
      },
      { kind: 'acResistance', value: 9, conditions: { statedAs: 'maximum' } },
      { kind: 'condition', text: 'new' },
      { kind: 'mass', value: 145, conditions: { tolerancePct: 3 } },
    ],
  });
  await receiveBox(stage, lot.id, {
    count: 240,
    entries: {
      grossG: 37_310,
      tareG: 2_460,
      scaleToleranceG: 20,
      parts: [{ name: 'insulating rings', expected: 240, found: 240 }],
    },
  });
  const ids = await idsOf(stage, lot.id);
  await inspect(
    stage,
    lot.id,
    [
      { code: 'sleeve', cellIds: [ids[57]!] },
      { code: 'scratches', cellIds: [ids[12]!, ids[131]!, ids[202]!] },
    ],
    true,
  );
  const [sleeve] = (await lotFindings(lab, technician, { lotId: lot.id })).filter(
    (finding) => finding.code === 'sleeve',
  );
  await makeGood(lab, technician, {
    findingId: sleeve!.id,
    before: 'sleeve torn for 4 mm at the positive end',
    done: 're-sleeved, ring fitted',
  });
  const random = seededRandom(43);
  await read(
    stage,
    lot.id,
    'openCircuitVoltage',
    ids,
    ids.map((_, i) => (older(i) ? 3.287 : 3.291) + 0.0006 * random.normal()),
  );
  await drawPlan(lab, technician, { lotId: lot.id, plan: { method: 'all' }, seed: 1 });
  const spread = seededRandom(41);
  const capacities = Array.from({ length: 240 }, (_, i) =>
    older(i) ? 6.09 + 0.016 * spread.normal() : 6.215 + 0.022 * spread.normal(),
  );
  const control: [number, number] = [ids[238]!, ids[239]!];
  await runControls(stage, control, lot.id, { rounds: 4, driftPct: [], seed: 30_000 });
  await testLot(stage, {
    lotId: lot.id,
    ratedAh: 6,
    currentA: 1.2,
    bank: 'west',
    capacities,
    stoppedEarly: [],
    // The control cells keep what they ran as such.
    leftOut: [238, 239],
    resistances: 240,
    poorJoint: { at: 100, mohm: 14 },
    rateSet: { at: [120, 121], currentsA: [6, 3] },
    seed: 1000,
  });
  const again = [30, 31].map((i) => ({ id: ids[i]!, capacityAh: capacities[i]! }));
  return {
    later: async () => {
      await runControls(stage, control, lot.id, { rounds: 1, driftPct: [], seed: 30_400 });
      await retestOnDrifting(stage, lot.id, again);
      await runControls(stage, control, lot.id, { rounds: 1, driftPct: [1.2], seed: 30_600 });
    },
  };
}

/** Lot B: codes tell 26 months of age; most cells are short; the dispute window closes. */
// eslint-disable-next-line local/function-length -- A story told in its order.
export async function loadLotB(stage: Stage): Promise<void> {
  const { lab, admin, technician, now } = stage;
  const hinterland = await addSupplier(lab, admin, {
    name: 'Hollin Reach Surplus',
    place: 'Hollin Reach',
  });
  const model = await addModel(lab, admin, {
    name: 'Sedge P104',
    chemistry: 'LFP',
    format: 'prism',
    widthMm: 130,
    thicknessMm: 36,
    heightMm: 195,
    massG: 1980,
    massTolerancePct: 3,
    ratedAh: 104,
    rateIt: 0.2,
    cutoffV: 2.5,
    temperatureC: 25,
    taperIt: 0.05,
    restMinutes: 60,
    terminalType: 'threadedHole',
    clampForceN: 3000,
  });
  const arrivedOn = dayBefore(now, 12);
  const produced = dayBefore(now, 12 + 793);
  const lot = await addLot(lab, admin, {
    title: 'Prismatic 104 Ah for workboats',
    supplierId: hinterland.id,
    modelId: model.id,
    quantity: 32,
    orderedQuantity: 32,
    price: 1360,
    freight: 84,
    orderedOn: dayBefore(now, 31),
    arrivedOn,
    labels: Array.from({ length: 32 }, (_, i) => cellCode('B', produced, 4215 + 3 * i)),
    boxes: Array.from({ length: 32 }, (_, i) => `crate ${Math.floor(i / 8) + 1}`),
    claim: [
      {
        kind: 'capacity',
        value: 104,
        conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25, statedAs: 'minimum' },
      },
      { kind: 'acResistance', value: 0.48, conditions: { statedAs: 'maximum' } },
      { kind: 'grade', text: 'first grade, unused' },
      { kind: 'mass', value: 1980, conditions: { tolerancePct: 3 } },
      { kind: 'disputeWindow', value: 15, conditions: { paysReturnFreight: 'buyer' } },
    ],
  });
  await keepOffer(lab, technician, {
    lotId: lot.id,
    text: 'Prismatic LFP, 104 Ah, first grade, unused stock from a cancelled order. 32 pieces, 1980 g each, below 0.48 mΩ. 15 days return, buyer pays the way back.',
  });
  await receiveBox(stage, lot.id, {
    count: 32,
    entries: {
      netG: 63_300,
      scaleToleranceG: 50,
      parts: [
        { name: 'bus bars', expected: 32, found: 30 },
        { name: 'bolts', expected: 64, found: 64 },
      ],
    },
  });
  const ids = await idsOf(stage, lot.id);
  await inspect(
    stage,
    lot.id,
    [
      { code: 'thread', cellIds: [ids[22]!], note: 'a brass insert in the negative hole' },
      { code: 'adhesive', cellIds: [ids[3]!, ids[4]!, ids[5]!] },
    ],
    true,
  );
  await read(stage, lot.id, 'thickness', [ids[9]!, ids[10]!, ids[11]!], [37.3, 36.2, 36.1]);
  const random = seededRandom(47);
  await read(
    stage,
    lot.id,
    'openCircuitVoltage',
    ids,
    ids.map((_, i) => (i === 27 ? 3.256 : 3.294 + 0.0012 * random.normal())),
  );
  await drawPlan(lab, technician, { lotId: lot.id, plan: { method: 'all' }, seed: 1 });
  const spread = seededRandom(42);
  await testLot(stage, {
    lotId: lot.id,
    ratedAh: 104,
    currentA: 20.8,
    bank: 'east',
    capacities: Array.from({ length: 32 }, (_, i) =>
      i % 8 === 3
        ? 104.9 + 0.3 * spread.normal()
        : i % 8 === 6
          ? 106.2 + 0.3 * spread.normal()
          : 99.4 + 0.9 * spread.normal(),
    ),
    stoppedEarly: [17],
    leftOut: [22],
    // One more cell than the fixtures hold.
    held: (i) => (i === 31 ? 'free' : 'fixture'),
    resistances: 24,
    seed: 5000,
  });
  await keepBooks(lab, technician, {
    lotId: lot.id,
    version: 0,
    minutes: 310,
    perMinute: 0.75,
    linePct: 95,
    gradePrices: { First: 44, Second: 38, Utility: 25, Spares: 8, Recycle: 0 },
    refund: null,
    returnFreight: 96.4,
    packingMinutes: 120,
    partialRefund: 250,
    replacement: null,
    asksTesting: false,
  });
  // Of those that hold about the same.
  await watchSixteen(
    stage,
    lot.id,
    ids.filter((_, i) => i % 8 !== 3 && i % 8 !== 6),
  );
}
