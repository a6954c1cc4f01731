import { parseDatabaseUrl, Store } from '@dusk-tally/store';
import { arrivalsDerivation } from './arrivals/derivations';
import { swellingDerivation } from './arrivals/swelling';
import { engineOf } from './derived';
import { openComputePool } from './compute';
import { channelFit, readingFigures, runFigures } from './evidence/derivations';
import { watchedStrings } from './evidence/strings/derivation';
import { handFigures } from './gathering/hand-log/derivation';
import { restsDerivation } from './resting/refresh-rests';
import { type Lab, labWithin } from './shared';
import { gradedCells, judgedCells, swappedCells } from './verdicts/derivations';
import { keepMoves } from './verdicts/lot-moves';

/** Everything that is derived, in any order: the engine finds the right one. */
export const DERIVATIONS = [
  swellingDerivation,
  arrivalsDerivation,
  restsDerivation,
  runFigures,
  readingFigures,
  watchedStrings,
  handFigures,
  channelFit,
  swappedCells,
  judgedCells,
  gradedCells,
];

const derive = engineOf(DERIVATIONS, keepMoves);

/** Opens the lab: database and workers. Nothing is kept in the process that another would miss. */
export function openLab(settings: {
  databaseUrl: string;
  workerFile: string;
  now?: () => Date;
}): Lab {
  const lab: Lab = {
    store: new Store(parseDatabaseUrl(settings.databaseUrl)),
    compute: openComputePool(settings.workerFile),
    now: settings.now ?? (() => new Date()),
    derive: (changes, transaction) => derive(labWithin(lab, transaction), changes, transaction),
  };
  return lab;
}

/** Closes what `openLab` opened. */
export async function closeLab(lab: Lab): Promise<void> {
  await lab.compute.close();
  await lab.store.close();
}
