import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';

const MOST_DAYS = 3650;
const PRELOAD = pathToFileURL(join(import.meta.dirname, 'clock-ahead.mjs')).href;

/**
 * Days a demo’s clock is to be moved on by, from its arguments: `--ahead 14`.
 * @throws Error for anything else.
 */
export function daysAhead(args) {
  if (args.length === 0) return 0;
  const [option, text, ...more] = args;
  const days = Number(text?.replace(',', '.'));
  if (option !== '--ahead' || more.length > 0 || !(days > 0 && days <= MOST_DAYS))
    throw new Error('Expected nothing, or --ahead and a number of days, such as --ahead 14.');
  return days;
}

/**
 * Moves the clock kept in a file on; it never goes back, as nothing that was recorded may lie in the
 * future. @returns what every process of the demo has in its environment.
 */
export function movedClock(file, days) {
  const before = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).aheadS : 0;
  const aheadS = before + Math.round(86_400 * days);
  if (aheadS !== before) {
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, JSON.stringify({ aheadS }));
  }
  if (aheadS === 0) return {};
  return {
    DUSK_AHEAD_S: String(aheadS),
    NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} --import=${PRELOAD}`.trim(),
  };
}
