import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import type { ChannelLimits, ChannelWiring } from '@dusk-tally/core/bench';
import { type Actor, closeLab, type Lab, openLab } from '@dusk-tally/lab';
import {
  actorOfToken,
  addJobs,
  benchLots,
  listRecipes,
  makeToken,
  planAll,
  planBoard,
  readAmbient,
  setChannelLimits,
  startJob,
  startList,
} from '@dusk-tally/lab/bench';
import { addChannel, addInstrument } from '@dusk-tally/lab/evidence';

/** The tester whose channels the agent drives. */
const NAME = 'Driven bench';
/** How many runs are under way at the first look. */
const ALIVE = Number(process.env.DUSK_BENCH_ALIVE ?? 7);

const limitsOf = (index: number): ChannelLimits => ({
  minA: 0.02,
  maxA: index < 8 ? 30 : 60,
  maxW: index < 8 ? 150 : 300,
  minV: 0,
  maxV: 60,
  canCharge: true,
  canDischarge: true,
  wires: 4,
  currentGainPct: 0.2,
  currentOffsetA: 0.002,
  voltageGainPct: 0.05,
  voltageOffsetV: 0.002,
  resolutionV: 0.001,
  resolutionA: 0.001,
  reportS: 1,
  leadPlusMohm: 2.2,
  leadMinusMohm: 2.1,
  fuseA: index < 8 ? 40 : 80,
  holderA: index < 8 ? 32 : 65,
  enforcesCutoff: true,
});

/** Channels of the driven bench, made at the first start; their addresses are today’s. */
async function wire(lab: Lab, admin: Actor, wirings: readonly ChannelWiring[]): Promise<number[]> {
  const { instruments, meters, bench } = lab.store;
  const known = await instruments.one({ name: NAME });
  const tester =
    known ??
    (await addInstrument(lab, admin, {
      kind: 'tester',
      name: NAME,
      serial: 'FS-0201',
      calibratedOn: new Date(lab.now().getTime() - 40 * 86_400_000).toISOString().slice(0, 10),
      dueOn: new Date(lab.now().getTime() + 325 * 86_400_000).toISOString().slice(0, 10),
      accuracy: {
        currentGainPct: 0.2,
        currentOffsetA: 0.002,
        voltageGainPct: 0.05,
        voltageOffsetV: 0.002,
        timePpm: 50,
      },
    }));
  const there = await meters.channels.find({ instrumentId: tester.id }, { order: [['id', 'ASC']] });
  for (let i = there.length; i < wirings.length; i++)
    there.push(
      await addChannel(lab, admin, {
        instrumentId: tester.id,
        name: String(i + 1),
        calibratedOn: tester.calibratedOn,
        dueOn: tester.dueOn,
      }),
    );
  for (const [i, wiring] of wirings.entries()) {
    const channelId = there[i]!.id;
    const row = await bench.channels.one({ channelId });
    await setChannelLimits(lab, admin, {
      channelId,
      version: row?.version ?? null,
      limits: row?.limits ?? limitsOf(i),
      wiring,
      agent: 'bench',
    });
  }
  return there.slice(0, wirings.length).map(({ id }) => id);
}

/** A token the agent has already, or a new one. */
async function keepToken(lab: Lab, admin: Actor, file: string): Promise<void> {
  const known = existsSync(file) ? readFileSync(file, 'utf8').trim() : '';
  const works =
    known &&
    (await actorOfToken(lab, `Bearer ${known}`, 'bench').then(
      () => true,
      () => false,
    ));
  if (works) return;
  const { token } = await makeToken(lab, admin, {
    name: 'Agent of the driven bench',
    scopes: ['bench'],
  });
  writeFileSync(file, token, { mode: 0o600 });
}

/** Runs under way on the first channels, and some cells that wait. */
async function enliven(lab: Lab, technician: Actor, channels: readonly number[]): Promise<void> {
  const active = await lab.store.bench.runs.count({ driven: true, state: ['ready', 'running'] });
  if (active > 0) return;
  const recipes = await listRecipes(lab, technician, {});
  const claimCheck = recipes.find(({ purpose }) => purpose === 'claimCheck')!;
  const lots = await benchLots(lab, technician, {});
  const lot = lots.find(
    ({ cells }) => cells.filter(({ tested, ready }) => tested && ready).length > 100,
  );
  if (!lot) return;
  const open = await lab.store.bench.jobs.find({
    lotId: lot.id,
    state: ['waiting', 'planned', 'running'],
  });
  const busy = new Set(open.map(({ cellId }) => cellId));
  const cells = lot.cells
    .filter(({ id, tested, ready }) => tested && ready && !busy.has(id))
    .slice(20, 20 + ALIVE + 5);
  await addJobs(lab, technician, {
    lotId: lot.id,
    cellIds: cells.map(({ id }) => id),
    recipeId: claimCheck.id,
  });
  const { jobs } = await planBoard(lab, technician, {});
  const mine = jobs.filter(({ cellId }) => cells.some(({ id }) => id === cellId));
  for (const [i, job] of mine.slice(0, ALIVE).entries()) {
    const where = { jobId: job.id, channelId: channels[i]! };
    const list = await startList(lab, technician, where);
    if (list.reasons.some(({ weight }) => weight === 'stop')) continue;
    await startJob(lab, technician, {
      ...where,
      answers: list.questions.map(({ question, known }) => ({
        question,
        answeredFor: known ? ('set' as const) : ('cell' as const),
      })),
    });
  }
  await planAll(lab, technician, { seed: 1 });
}

const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
try {
  const person = async (role: 'admin' | 'technician'): Promise<Actor> => {
    const { id, name } = (await lab.store.people.one({ role }))!;
    return { id, name, role };
  };
  const [admin, technician] = [await person('admin'), await person('technician')];
  const { wirings } = JSON.parse(readFileSync(process.env.DUSK_BENCH_WIRINGS!, 'utf8')) as {
    wirings: ChannelWiring[];
  };
  const channels = await wire(lab, admin, wirings);
  await keepToken(lab, admin, process.env.DUSK_TOKEN_FILE!);
  await readAmbient(lab, technician, { celsius: 22 });
  await enliven(lab, technician, channels);
} finally {
  await closeLab(lab);
}
