import type { Clamping } from '@dusk-tally/core/chemistry';
import {
  type CellParameters,
  recordDischarge,
  rowsAsCsv,
  typicalCell,
} from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { importLog } from '@dusk-tally/lab/evidence';
import { lotCells } from '@dusk-tally/lab/verdicts';
import { read, type Stage } from './basics';
import { gainOf } from './channels';

export interface TestStory {
  lotId: number;
  ratedAh: number;
  currentA: number;
  bank: 'west' | 'east';
  /** True capacity of each cell, Ah. */
  capacities: number[];
  /** Cells whose discharge was stopped by hand before the cut-off, by position from 0. */
  stoppedEarly: number[];
  /** Cells that may not go on a tester, by position from 0. */
  leftOut: number[];
  /** How many cells have their AC resistance read. */
  resistances: number;
  /** Cells whose clamp was not tightened, by position from 0, and what it added, mΩ. */
  poorJoint?: { at: number; mohm: number };
  /** Cells that ran at other currents first, by position from 0. */
  rateSet?: { at: number[]; currentsA: number[] };
  /** How a cell was held, by position from 0; not recorded where this is absent. */
  held?: (at: number) => Clamping;
  seed: number;
}

/** Rows close enough together for a DC resistance at 10 s: a row a second for the first minute. */
export const CLOSER_AT_LOAD_ON = { everyS: 1, forS: 60 };

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

/** Discharges every cell of a lot on the simulated bench, and reads its AC resistance. */
export async function testLot(stage: Stage, story: TestStory): Promise<void> {
  const { lab, technician } = stage;
  const cells = await lotCells(lab, technician, { lotId: story.lotId });
  const random = seededRandom(story.seed);
  const models: CellParameters[] = story.capacities.map((capacityAh) => {
    const usual = typicalCell('LFP', story.ratedAh);
    const spread = 1 + 0.03 * random.normal() + 1.2 * Math.max(0, 1 - capacityAh / story.ratedAh);
    return { ...usual, capacityAh, r0Mohm: usual.r0Mohm * spread };
  });
  const channels = stage.channels[story.bank];
  const chance = models.map(() => random.normal());
  const run = async (i: number, currentA: number, name: string) => {
    const rows = recordDischarge(models[i]!, {
      currentA,
      cutoffV: story.stoppedEarly.includes(i) ? 3.12 : 2.5,
      intervalS: currentA > story.currentA ? 5 : 10,
      restBeforeS: 3600,
      restAfterS: 600,
      ambientC: 22.5 + 1.5 * Math.sin(i / 9),
      seed: story.seed + i,
      closerAtLoadOn: CLOSER_AT_LOAD_ON,
      channel: {
        currentNoiseA: currentA * 0.0004,
        leadMohm: story.poorJoint?.at === i ? story.poorJoint.mohm : 0,
        currentGainPct: gainOf(story.bank, i % channels.length, chance[i]!),
      },
    });
    await importLog(lab, technician, {
      lotId: story.lotId,
      cellId: cells[i]!.id,
      channelId: channels[i % channels.length]!,
      clamping: story.held?.(i) ?? null,
      fileName: `${cells[i]!.number}${name}.csv`,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
  };
  for (const i of story.rateSet?.at ?? [])
    for (const amps of story.rateSet!.currentsA) await run(i, amps, ` ${amps} A`);
  await inTurn(models, 3, async (_, i) => {
    if (!story.leftOut.includes(i)) await run(i, story.currentA, '');
  });
  await read(
    stage,
    story.lotId,
    'acResistance',
    cells.map((cell) => cell.id),
    models.slice(0, story.resistances).map((model) => model.r0Mohm * 0.92),
  );
}
