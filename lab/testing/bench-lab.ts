import { recordInspection } from '../src/arrivals';
import { addJobs, listRecipes, planBoard, setChannelLimits, UNKNOWN_LIMITS } from '../src/bench';
import { addInstrument, recordReadings } from '../src/evidence';
import { addPersonWithPassword } from '../src/people';
import type { Actor } from '../src';
import { lotCells } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from './fresh-lab';

/** A Wednesday morning. */
export const NOW = new Date('2026-03-04T09:00:00Z');

/** Limits of a channel that can do what the shipped recipes ask for. */
export const ABLE = { ...UNKNOWN_LIMITS, canCharge: true, fuseA: 40, holderA: 40, reportS: 0.02 };

/** A lab with four channels and twelve inspected cells of 6 Ah nobody tested yet. */
export interface BenchLab {
  fresh: FreshLab;
  lotId: number;
  cells: Awaited<ReturnType<typeof lotCells>>;
  channels: number[];
  technician: Actor;
}

export async function benchLab(now: () => Date): Promise<BenchLab> {
  const fresh = await freshLab(now);
  const { lab, admin } = fresh;
  const lot = await claimedLot(fresh, 12, 6);
  const cells = await lotCells(lab, admin, { lotId: lot.id });
  await recordInspection(lab, admin, {
    lotId: lot.id,
    clientKey: '00000000-0000-4000-8000-000000000001',
    marks: [{ act: 'clearRest', except: [] }],
  });
  await recordReadings(lab, admin, {
    lotId: lot.id,
    readings: cells.map((cell, i) => ({
      cellId: cell.id,
      kind: 'openCircuitVoltage' as const,
      value: 3.29,
      decimals: 3,
      clientKey: `00000000-0000-4000-8000-0000000001${String(i).padStart(2, '0')}`,
    })),
  });
  for (let i = 0; i < 4; i++)
    await addInstrument(lab, admin, {
      kind: 'tester',
      name: `Place ${i + 1}`,
      accuracy: {
        currentGainPct: 0.1,
        currentOffsetA: 0.002,
        voltageGainPct: 0.05,
        voltageOffsetV: 0.001,
        timePpm: 50,
      },
    });
  const channels = (await planBoard(lab, admin, {})).channels.map(({ id }) => id);
  await addPersonWithPassword(lab, admin, {
    email: 'tech@lab.example',
    name: 'Tamsin',
    role: 'technician',
    password: 'a long enough password',
  });
  const { id } = (await lab.store.people.one({ name: 'Tamsin' }))!;
  return {
    fresh,
    lotId: lot.id,
    cells,
    channels,
    technician: { id, name: 'Tamsin', role: 'technician' },
  };
}

/** Puts a claim check of the first eight cells on the list; every channel can run it. */
export async function listEight({
  fresh,
  lotId,
  cells,
  channels,
  technician,
}: BenchLab): Promise<void> {
  const { lab, admin } = fresh;
  for (const channelId of channels)
    await setChannelLimits(lab, admin, { channelId, limits: ABLE, wiring: null });
  const recipe = (await listRecipes(lab, admin, {})).find(({ name }) => name === 'Claim check')!;
  await addJobs(lab, technician, {
    lotId,
    cellIds: cells.slice(0, 8).map((cell) => cell.id),
    recipeId: recipe.id,
  });
}
