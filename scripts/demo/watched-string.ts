import { recordString, stringAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { importString, stringPage, tieString } from '@dusk-tally/lab/evidence';
import type { Stage } from './basics';

const DAY_MS = 86_400_000;
const CELLS = 16;
/** Charge of one cycle, Ah, and how full the cells are at its end. */
const CYCLED_AH = 75;
const FULL = 0.985;

/** Three cycles of sixteen cells; how much fuller each is than the others at the end of a charge. */
function monitorLog(
  ahead: (cell: number) => number,
  startedAt: Date,
  seed: number,
): Uint8Array<ArrayBuffer> {
  const own = seededRandom(9);
  const members = Array.from({ length: CELLS }, (_, c) => {
    const cell = { ...typicalCell('LFP', 104), capacityAh: 99.4 + 0.15 * own.normal() };
    return { cell, from: FULL - CYCLED_AH / cell.capacityAh + ahead(c) };
  });
  const rows = recordString(members, {
    currentA: 30,
    highestV: 3.6,
    lowestV: 2.9,
    restS: 3600,
    cycles: 3,
    intervalS: 20,
    ambientC: 23,
    bleed: null,
    noiseV: 0.0006,
    wanderV: 0.0025,
    seed,
  });
  return new TextEncoder().encode(stringAsCsv(rows, Math.floor(startedAt.getTime() / 1000)));
}

/** Sixteen cells alike in series, watched before and after they were brought level: two periods. */
export async function watchSixteen(
  stage: Stage,
  lotId: number,
  cellIds: readonly number[],
): Promise<void> {
  const { lab, technician, now } = stage;
  const random = seededRandom(5);
  const before = Array.from({ length: CELLS }, () => 0.0004 * random.normal());
  before[6] = 0.004;
  before[11] = -0.003;
  const after = Array.from({ length: CELLS }, () => 0.00002 * random.normal());
  for (const [name, ahead, daysAgo, seed] of [
    ['First charges of the string', before, 8, 4],
    ['After it was brought level', after, 3, 11],
  ] as const) {
    const startedAt = new Date(now.getTime() - daysAgo * DAY_MS);
    const { id } = await importString(lab, technician, {
      lotId,
      name,
      fileName: `monitor ${startedAt.toISOString().slice(0, 10)}.csv`,
      bytes: monitorLog((cell) => ahead[cell]!, startedAt, seed),
    });
    const { version } = await stringPage(lab, technician, { stringId: id });
    await tieString(lab, technician, {
      stringId: id,
      version,
      name,
      cellIds: cellIds.slice(0, CELLS),
    });
  }
}
