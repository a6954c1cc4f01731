import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { addChannel, importLog, keepControlCell } from '@dusk-tally/lab/evidence';
import { dayBefore, type Stage } from './basics';

/** How many channels the demo’s load banks have. */
export const CHANNELS = { west: 4, east: 2 };
/** The third channel of Load bank West reads this much high, %. */
const BIASED = { index: 2, gainPct: 3.5 };
/** One result repeats within about this, %. */
const REPEATS_PCT = 0.12;

/** Gain of a channel of the demo, %, with the chance of one run. */
export const gainOf = (bank: 'west' | 'east', index: number, chance: number): number =>
  (bank === 'west' && index === BIASED.index ? BIASED.gainPct : 0) + REPEATS_PCT * chance;

/** The channels of both load banks; the first came with the instrument. */
export async function addChannels(
  { lab, admin, now }: Stage,
  bank: 'west' | 'east',
  instrumentId: number,
): Promise<number[]> {
  for (let i = 1; i < CHANNELS[bank]; i++)
    await addChannel(lab, admin, {
      instrumentId,
      name: String(i + 1),
      calibratedOn: dayBefore(now, bank === 'west' ? 90 : 160),
      // The last one of West was left out of the round.
      dueOn: dayBefore(now, bank === 'west' ? (i === 3 ? 12 : -275) : -205),
    });
  const rows = await lab.store.meters.channels.find(
    { instrumentId },
    { order: [['id', 'ASC']], columns: ['id'] },
  );
  return rows.map((row) => row.id);
}

interface ControlStory {
  /** Rounds: every control cell once on every channel. */
  rounds: number;
  /** What the second channel of Load bank East has drifted to in each round, %. */
  driftPct: number[];
  seed: number;
}

/** Two cells of lot A, kept to compare channels, run on all of them round after round. */
export async function runControls(
  stage: Stage,
  cellIds: [number, number],
  lotId: number,
  story: ControlStory,
): Promise<void> {
  const { lab, admin, technician } = stage;
  const random = seededRandom(story.seed);
  const cells = await lab.store.cells.find({ id: cellIds }, { order: [['id', 'ASC']] });
  for (const { number, controlSince } of cells)
    if (controlSince === null) await keepControlCell(lab, admin, { number, keep: true });
  for (let round = 0; round < story.rounds; round++)
    for (const [c, cell] of cells.entries())
      for (const bank of ['west', 'east'] as const)
        for (const [index, channelId] of stage.channels[bank].entries()) {
          const drift = bank === 'east' && index === 1 ? (story.driftPct[round] ?? 0) : 0;
          const rows = recordDischarge(
            { ...typicalCell('LFP', 6), capacityAh: 6.11 + 0.05 * c },
            {
              currentA: 1.2,
              cutoffV: 2.5,
              intervalS: 60,
              restBeforeS: 3600,
              restAfterS: 0,
              ambientC: 23 + 0.2 * random.normal(),
              seed: story.seed + 100 * round + 10 * index + c,
              channel: { currentGainPct: gainOf(bank, index, random.normal()) + drift },
            },
          );
          await importLog(lab, technician, {
            lotId,
            cellId: cell.id,
            channelId,
            fileName: `${cell.number} control ${story.seed + round} ${bank} ${index + 1}.csv`,
            bytes: new TextEncoder().encode(rowsAsCsv(rows)),
          });
        }
}

/** Cells tested again on the drifting channel, before anyone noticed. */
export async function retestOnDrifting(
  stage: Stage,
  lotId: number,
  cells: { id: number; capacityAh: number }[],
): Promise<void> {
  for (const [i, { id, capacityAh }] of cells.entries()) {
    const rows = recordDischarge(
      { ...typicalCell('LFP', 6), capacityAh },
      {
        currentA: 1.2,
        cutoffV: 2.5,
        intervalS: 10,
        restBeforeS: 3600,
        restAfterS: 600,
        ambientC: 23.4,
        seed: 8800 + i,
        closerAtLoadOn: { everyS: 1, forS: 60 },
        channel: { currentGainPct: 1.1 },
      },
    );
    await importLog(stage.lab, stage.technician, {
      lotId,
      cellId: id,
      channelId: stage.channels.east[1]!,
      fileName: `again ${i + 1}.csv`,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
  }
}
