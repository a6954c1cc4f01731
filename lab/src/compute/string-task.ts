import type { Chemistry } from '@dusk-tally/core/chemistry';
import {
  blockTimes,
  encodeThinned,
  type LogMapping,
  LogRefusal,
  memorySource,
  readString,
  stringFromBlocks,
  type StringLog,
  type StringWatch,
  thinnedString,
  type TraceBlock,
  watchString,
} from '@dusk-tally/core/evidence';
import { fileSource } from './file-source';

/** The wide log of a string, to be read and watched. */
export interface StringTask {
  /** The log itself, or a file it lies in. */
  bytes: Uint8Array | null;
  path: string | null;
  mappings: Record<string, LogMapping>;
  chemistry: Chemistry;
}

export interface ComputedString extends StringLog {
  ok: true;
  durationS: number;
  /** Time each block of rows begins at, s. */
  beginsS: number[];
  watch: StringWatch;
  overview: Uint8Array;
}

export type StringResult = ComputedString | { ok: false; message: string };

/** Stretches the whole log is thinned to, for its first picture. */
export const OVERVIEW_POINTS = 2048;

/** Reads, watches and thins the log of a string. Runs in a worker. */
export function computeString({ bytes, path, mappings, chemistry }: StringTask): StringResult {
  const file = path === null ? null : fileSource(path);
  try {
    const log = readString(file ?? memorySource(bytes!), { mappings });
    const string = stringFromBlocks(log.blocks);
    const toS = string.timeS[string.timeS.length - 1]!;
    return {
      ok: true,
      ...log,
      durationS: toS,
      beginsS: blockTimes(string.timeS),
      watch: watchString(string, { chemistry }),
      overview: encodeThinned(thinnedString(string, { fromS: 0, toS, points: OVERVIEW_POINTS })),
    };
  } catch (error) {
    if (error instanceof LogRefusal) return { ok: false, message: error.message };
    throw error;
  } finally {
    file?.close();
  }
}

/** Blocks of a string, and the stretch of time that is wanted, s. */
export interface StretchTask {
  blocks: TraceBlock[];
  fromS: number;
  toS: number;
}

/** A picture of a stretch, as `encodeThinned` bytes. Runs in a worker. */
export const viewString = ({
  blocks,
  fromS,
  toS,
  points,
}: StretchTask & { points: number }): Uint8Array =>
  encodeThinned(thinnedString(stringFromBlocks(blocks), { fromS, toS, points }));

/** What a stretch tells; null where it holds no readings. Runs in a worker. */
export function watchStretch({
  blocks,
  fromS,
  toS,
  chemistry,
}: StretchTask & { chemistry: Chemistry }): StringWatch | null {
  try {
    return watchString(stringFromBlocks(blocks), { chemistry, fromS, toS });
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}
