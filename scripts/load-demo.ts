import { randomUUID } from 'node:crypto';
import { seededRandom } from '@dusk-tally/core/statistics';
import {
  type CellParameters,
  recordDischarge,
  rowsAsCsv,
  typicalCell,
} from '@dusk-tally/core/simulator';
import { type Actor, closeLab, type Lab, openLab } from '@dusk-tally/lab';
import { addLot, addModel } from '@dusk-tally/lab/arrivals';
import { addInstrument, importLog, recordReadings } from '@dusk-tally/lab/evidence';
import { addPerson, DEMO_PASSWORD, DEMO_PEOPLE, makeFirstAdmin } from '@dusk-tally/lab/people';
import { addSupplier } from '@dusk-tally/lab/suppliers';
import { lotCells } from '@dusk-tally/lab/verdicts';

interface LotStory {
  lotId: number;
  ratedAh: number;
  currentA: number;
  testerId: number;
  acMeterId: number;
  claimedAcMohm: number;
  /** True capacity of each cell, Ah. */
  capacities: number[];
  /** Cells whose discharge was stopped by hand before the cut-off, by position from 0. */
  stoppedEarly: number[];
  /** How many cells have their AC resistance read. */
  resistances: number;
  seed: number;
}

const dayBefore = (now: Date, days: number): string =>
  new Date(now.getTime() - days * 86_400_000).toISOString().slice(0, 10);

/** Runs tasks a few at a time. */
async function inTurn<T>(
  items: T[],
  most: number,
  work: (item: T, index: number) => Promise<unknown>,
): Promise<void> {
  let next = 0;
  await Promise.all(
    Array.from({ length: most }, async () => {
      while (next < items.length) {
        const index = next++;
        await work(items[index]!, index);
      }
    }),
  );
}

async function testLot(lab: Lab, actor: Actor, story: LotStory): Promise<void> {
  const cells = await lotCells(lab, actor, { lotId: story.lotId });
  const random = seededRandom(story.seed);
  const models: CellParameters[] = story.capacities.map((capacityAh) => {
    const usual = typicalCell('LFP', story.ratedAh);
    const spread = 1 + 0.03 * random.normal() + 1.2 * Math.max(0, 1 - capacityAh / story.ratedAh);
    return { ...usual, capacityAh, r0Mohm: usual.r0Mohm * spread };
  });
  await inTurn(models, 3, async (model, i) => {
    const cutoffV = story.stoppedEarly.includes(i) ? 3.12 : 2.5;
    const rows = recordDischarge(model, {
      currentA: story.currentA,
      cutoffV,
      intervalS: 10,
      restBeforeS: 3600,
      restAfterS: 600,
      ambientC: 22.5 + 1.5 * Math.sin(i / 9),
      seed: story.seed + i,
      channel: { currentNoiseA: story.currentA * 0.0004 },
    });
    const bytes = new TextEncoder().encode(rowsAsCsv(rows));
    await importLog(lab, actor, {
      lotId: story.lotId,
      cellId: cells[i]!.id,
      instrumentId: story.testerId,
      fileName: `${cells[i]!.number}.csv`,
      bytes,
    });
  });
  const readings = models.slice(0, story.resistances).map((model, i) => ({
    cellId: cells[i]!.id,
    kind: 'acResistance' as const,
    value: Number((model.r0Mohm * 0.92).toFixed(story.claimedAcMohm < 2 ? 3 : 2)),
    decimals: story.claimedAcMohm < 2 ? 3 : 2,
    clientKey: randomUUID(),
  }));
  await recordReadings(lab, actor, { lotId: story.lotId, instrumentId: story.acMeterId, readings });
}

async function loadDemo(lab: Lab): Promise<void> {
  const now = lab.now();
  await lab.store.settings.update(
    { labName: 'Fennick Sound Cell Works', place: 'Fennick Sound' },
    { id: 1 },
  );
  const [first, ...others] = DEMO_PEOPLE;
  await makeFirstAdmin(lab, { ...first!, password: DEMO_PASSWORD });
  const row = (await lab.store.people.one({ email: first!.email }))!;
  const admin: Actor = { id: row.id, name: row.name, role: row.role };
  for (const person of others) await addPerson(lab, admin, { ...person, password: DEMO_PASSWORD });
  const technicianRow = (await lab.store.people.one({ role: 'technician' }))!;
  const technician: Actor = {
    id: technicianRow.id,
    name: technicianRow.name,
    role: technicianRow.role,
  };

  const west = await addInstrument(lab, admin, {
    kind: 'tester',
    name: 'Load bank West',
    serial: 'FS-0112',
    calibratedOn: dayBefore(now, 90),
    dueOn: dayBefore(now, -275),
    accuracy: {
      currentGainPct: 0.2,
      currentOffsetA: 0.002,
      voltageGainPct: 0.05,
      voltageOffsetV: 0.003,
      timePpm: 50,
    },
  });
  const east = await addInstrument(lab, admin, {
    kind: 'tester',
    name: 'Load bank East',
    serial: 'FS-0140',
    calibratedOn: dayBefore(now, 160),
    dueOn: dayBefore(now, -205),
    accuracy: {
      currentGainPct: 0.5,
      currentOffsetA: 0.02,
      voltageGainPct: 0.05,
      voltageOffsetV: 0.005,
      timePpm: 50,
    },
  });
  const acMeter = await addInstrument(lab, admin, {
    kind: 'acMeter',
    name: 'Four-wire meter',
    serial: 'FS-0097',
    calibratedOn: dayBefore(now, 200),
    dueOn: dayBefore(now, -165),
    accuracy: { gainPct: 0.5, offset: 0.003 },
  });

  const quay = await addSupplier(lab, admin, { name: 'Saltmarsh Cell Trade', place: 'Quay Row' });
  const hinterland = await addSupplier(lab, admin, {
    name: 'Hollin Reach Surplus',
    place: 'Hollin Reach',
  });
  const round = await addModel(lab, admin, {
    name: 'Marl 32700',
    chemistry: 'LFP',
    format: 'cylinder',
    diameterMm: 32,
    heightMm: 70,
    massG: 145,
    ratedAh: 6,
    rateIt: 0.2,
    cutoffV: 2.5,
    temperatureC: 25,
  });
  const prism = await addModel(lab, admin, {
    name: 'Sedge P104',
    chemistry: 'LFP',
    format: 'prism',
    widthMm: 130,
    thicknessMm: 36,
    heightMm: 195,
    massG: 1980,
    ratedAh: 104,
    rateIt: 0.2,
    cutoffV: 2.5,
    temperatureC: 25,
  });

  const lotA = await addLot(lab, admin, {
    title: '32700 for tide gauges',
    supplierId: quay.id,
    modelId: round.id,
    quantity: 240,
    price: 1128,
    orderedOn: dayBefore(now, 40),
    arrivedOn: dayBefore(now, 22),
    claim: [
      {
        kind: 'capacity',
        value: 6,
        conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25, statedAs: 'minimum' },
      },
      { kind: 'acResistance', value: 9, conditions: { statedAs: 'maximum' } },
      { kind: 'condition', text: 'new' },
    ],
  });
  const lotB = await addLot(lab, admin, {
    title: 'Prismatic 104 Ah for workboats',
    supplierId: hinterland.id,
    modelId: prism.id,
    quantity: 32,
    price: 1360,
    orderedOn: dayBefore(now, 31),
    arrivedOn: dayBefore(now, 12),
    labels: Array.from(
      { length: 32 },
      (_, i) => `0FZCB31K204170E8D${String(4215 + 3 * i).padStart(7, '0')}`,
    ),
    claim: [
      {
        kind: 'capacity',
        value: 104,
        conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25, statedAs: 'minimum' },
      },
      { kind: 'acResistance', value: 0.48, conditions: { statedAs: 'maximum' } },
      { kind: 'grade', text: 'first grade, unused' },
      { kind: 'disputeWindow', value: 15 },
    ],
  });

  const spread = seededRandom(41);
  // Two production dates lie mixed in lot A: two humps in capacity.
  const lotACapacities = Array.from({ length: 240 }, (_, i) =>
    (i * 7) % 8 < 5 ? 6.215 + 0.022 * spread.normal() : 6.09 + 0.016 * spread.normal(),
  );
  const lotBCapacities = Array.from({ length: 32 }, (_, i) =>
    i % 8 === 3
      ? 104.9 + 0.3 * spread.normal()
      : i % 8 === 6
        ? 106.2 + 0.3 * spread.normal()
        : 99.4 + 0.9 * spread.normal(),
  );
  await testLot(lab, technician, {
    lotId: lotA.id,
    ratedAh: 6,
    currentA: 1.2,
    testerId: west.id,
    acMeterId: acMeter.id,
    claimedAcMohm: 9,
    capacities: lotACapacities,
    stoppedEarly: [],
    resistances: 240,
    seed: 1000,
  });
  await testLot(lab, technician, {
    lotId: lotB.id,
    ratedAh: 104,
    currentA: 20.8,
    testerId: east.id,
    acMeterId: acMeter.id,
    claimedAcMohm: 0.48,
    capacities: lotBCapacities,
    stoppedEarly: [17],
    resistances: 24,
    seed: 5000,
  });
}

const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
try {
  await lab.store.migrate();
  const lots = await lab.store.lots.count({});
  if (lots === 0) {
    console.error('Loading the demo …');
    await loadDemo(lab);
  }
} finally {
  await closeLab(lab);
}
