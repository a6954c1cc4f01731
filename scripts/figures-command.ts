import { readFileSync, statSync } from 'node:fs';
import {
  channelsInLog,
  figuresOfLog,
  LogRefusal,
  readLog,
  type ReadLog,
  readLongLog,
} from '@dusk-tally/core/evidence';
import { fileSource } from '../lab/src/compute/file-source';
import { type Element, elementOf, refused } from './figures-elements';
import {
  cutoffsV,
  files,
  leadMohm,
  leadUncertaintyMohm,
  loadOnly,
  ratedAh,
} from './figures-options';

/** Larger files are read piece by piece. */
const LARGEST_WHOLE = 48 * 1024 * 1024;

function logOf(file: string): ReadLog {
  const { size } = statSync(file);
  const wanted = { ratedAh: ratedAh ?? null };
  if (size <= LARGEST_WHOLE) return readLog(readFileSync(file), wanted);
  const source = fileSource(file);
  try {
    const { log } = readLongLog(source, { ...wanted, cutoffsV, leadMohm });
    return log;
  } finally {
    source.close();
  }
}

/** One element a file, or one for each channel of a table of several. */
function elementsFor(file: string): Element[] {
  try {
    const channels = statSync(file).size <= LARGEST_WHOLE ? channelsInLog(readFileSync(file)) : [];
    if (channels.length > 1)
      return channels.map(({ channel, bytes }) =>
        elementFor(`${file} (channel ${channel})`, () =>
          readLog(bytes, { ratedAh: ratedAh ?? null }),
        ),
      );
  } catch {
    // What is wrong with it is said where it is read.
  }
  return [elementFor(file, () => logOf(file))];
}

function elementFor(file: string, read: () => ReadLog): Element {
  try {
    const log = read();
    return elementOf(
      file,
      log,
      figuresOfLog(log, {
        cutoffsV,
        accuracy: null,
        leadMohm,
        leadUncertaintyMohm,
        ratedAh,
        loadOnly,
      }),
    );
  } catch (error) {
    if (error instanceof LogRefusal) return refused(file, error.message, error.code);
    const { code, message } = error as NodeJS.ErrnoException;
    if (code) return refused(file, `The file could not be opened: ${message}`, 'cannot-open');
    throw error;
  }
}

const elements = files.flatMap(elementsFor);
process.stdout.write(`${JSON.stringify(elements, null, 2)}\n`);
process.exitCode = elements.some((element) => element.status === 'refused') ? 1 : 0;
