import { type Actor, closeLab, type Lab, openLab } from '@dusk-tally/lab';
import { addInstrument, bringUpToDate } from '@dusk-tally/lab/evidence';
import {
  addPersonWithPassword,
  DEMO_PASSWORD,
  DEMO_PEOPLE,
  makeFirstAdmin,
} from '@dusk-tally/lab/people';
import { layOutShelf, runByHand } from './demo/by-hand';
import { addChannels } from './demo/channels';
import { dayBefore, type Stage } from './demo/basics';
import { loadLotA, loadLotB } from './demo/lots-a-b';
import { loadLotC, loadLotD, loadLotE } from './demo/lots-c-d-e';
import { loadSuppliers } from './demo/suppliers';

// eslint-disable-next-line local/function-length -- A story told in its order.
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
  for (const person of others)
    await addPersonWithPassword(lab, admin, { ...person, password: DEMO_PASSWORD });
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

  const voltmeter = await addInstrument(lab, admin, {
    kind: 'voltmeter',
    name: 'Hand voltmeter',
    serial: 'FS-0061',
    calibratedOn: dayBefore(now, 130),
    dueOn: dayBefore(now, -235),
    accuracy: { gainPct: 0.05, offset: 0.0005 },
  });
  const scale = await addInstrument(lab, admin, {
    kind: 'scale',
    name: 'Bench scale',
    serial: 'FS-0033',
    accuracy: { gainPct: 0, offset: 0.5 },
  });
  const stage: Stage = {
    lab,
    admin,
    technician,
    westId: west.id,
    eastId: east.id,
    channels: { west: [], east: [] },
    acMeterId: acMeter.id,
    voltmeterId: voltmeter.id,
    scaleId: scale.id,
    now,
  };
  stage.channels.west = await addChannels(stage, 'west', west.id);
  stage.channels.east = await addChannels(stage, 'east', east.id);
  const controlled = await loadLotA(stage);
  await loadLotB(stage);
  await controlled.later();
  await loadLotC(stage);
  await loadLotD(stage);
  await loadLotE(stage);
  await layOutShelf(stage);
  await runByHand(stage);
  await loadSuppliers(stage);
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
  // Results an earlier version made are computed again; of a fresh demo there are none.
  const { runs } = await bringUpToDate(lab);
  if (runs > 0) console.error(`${runs} earlier results were computed again.`);
} finally {
  await closeLab(lab);
}
