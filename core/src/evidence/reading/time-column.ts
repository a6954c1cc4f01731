import { type Finding, trapezoid } from '../../units';

/** Units a bare time column may count in. */
export const TIME_UNITS = ['ms', 's', 'min', 'h', 'd'] as const;
/** Unit of a column of times. */
export type TimeUnit = (typeof TIME_UNITS)[number];
/** Seconds in each unit of time. */
export const TIME_FACTOR: Record<TimeUnit, number> = {
  ms: 1e-3,
  s: 1,
  min: 60,
  h: 3600,
  d: 86400,
};
/** Each unit of time in words. */
export const TIME_UNIT_WORDS: Record<TimeUnit, string> = {
  ms: 'milliseconds',
  s: 'seconds',
  min: 'minutes',
  h: 'hours',
  d: 'days',
};

/** Days from the spreadsheets’ first day to 1970-01-01, and the numbers that dates of today have. */
const SPREADSHEET_EPOCH = 25_569;
const FIRST_SERIAL = 36_000;
const LAST_SERIAL = 73_000;

/** One way to read a time column, with what it makes of the log. */
export interface TimeReading {
  unit: TimeUnit;
  /** Usual time between rows, and of the whole log, s. */
  intervalS: number;
  durationS: number;
  /** Charge that would have flowed both ways, Ah; null without current. */
  movedAh: number | null;
}

/** How a bare time column was read, and whether another reading is possible, too. */
export interface TimeSettled {
  chosen: TimeReading;
  /** Others that are possible; empty where one is clear. */
  others: TimeReading[];
  /** Dates as a spreadsheet counts them, days from 1899-12-30. */
  isSerial: boolean;
  /** In no unit is the log one that a tester writes. */
  isUnclear?: boolean;
}

const NICE_S = [
  0.01, 0.02, 0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 3, 4, 5, 6, 10, 12, 15, 20, 30, 60, 120, 180, 240,
  300, 600, 900,
];
const isNice = (intervalS: number): boolean =>
  NICE_S.some((nice) => Math.abs(intervalS / nice - 1) < 0.005);

/** Usual step of a column: over twenty rows, so that rounding does not tell. */
function usualStep(times: Float64Array): number {
  const stride = Math.min(20, times.length - 1);
  const steps: number[] = [];
  const every = Math.max(1, Math.floor((times.length - stride) / 2000));
  for (let i = 0; i + stride < times.length; i += every) {
    const step = (times[i + stride]! - times[i]!) / stride;
    if (step > 0) steps.push(step);
  }
  steps.sort((a, b) => a - b);
  return steps[steps.length >> 1] ?? NaN;
}

/** ∫|I| over the column as it stands, A times its unit. */
function movedOver(times: Float64Array, currentA: Float64Array | null): number | null {
  if (!currentA) return null;
  let sum = 0;
  for (let i = 1; i < times.length; i++) {
    const step = times[i]! - times[i - 1]!;
    if (step > 0) sum += trapezoid(Math.abs(currentA[i - 1]!), Math.abs(currentA[i]!), step);
  }
  return sum;
}

/** How well a reading fits: intervals loggers have, lengths tests have, a charge the claim allows. */
function worthOf(reading: TimeReading, ratedAh: number | null): number {
  const { unit, intervalS, durationS, movedAh } = reading;
  // Where nothing is said, seconds are meant; the others have to earn it.
  let worth = unit === 's' ? 2 : 0;
  if (!(intervalS >= 0.005 && intervalS <= 1800)) worth -= 6;
  else if (intervalS < 0.05) worth -= 1;
  if (isNice(intervalS)) worth += 2;
  if (durationS < 60 || durationS > 60 * 86_400) worth -= 3;
  if (ratedAh && movedAh !== null && movedAh > 0) {
    const share = movedAh / ratedAh;
    if (share > 5) worth -= 5;
    else if (share > 2.5) worth -= 2;
    else if (share < 0.03) worth -= 3;
    else if (share > 0.15) worth += 2;
  }
  return worth;
}

/** A reading worth no more is none. */
const UNCLEAR = -3;
/** Another reading is possible where it is worth nearly as much. */
const NEARLY = 2;

/**
 * Settles what a bare column of numbers counts in, by what its values do (handbook, chapter 3, *A
 * time column is not believed blindly*).
 * @param times as written. @param currentA of the same rows, A. @param ratedAh of the claim.
 */
export function settleTimeUnit(
  times: Float64Array,
  currentA: Float64Array | null,
  ratedAh: number | null,
): TimeSettled {
  const step = usualStep(times);
  const [first, last] = [times[0]!, times[times.length - 1]!];
  const moved = movedOver(times, currentA);
  const readings = TIME_UNITS.map((unit): TimeReading => {
    const factor = TIME_FACTOR[unit];
    return {
      unit,
      intervalS: step * factor,
      durationS: Math.abs(last - first) * factor,
      movedAh: moved === null ? null : (moved * factor) / 3600,
    };
  });
  const isSerial = isSerialDay(first) && isSerialDay(last) && step < 0.05;
  const only = (unit: TimeUnit): TimeSettled => ({
    chosen: readings.find((reading) => reading.unit === unit)!,
    others: [],
    isSerial: unit === 'd' && isSerial,
  });
  if (isSerial) return only('d');
  // Since 1970: thirteen digits are milliseconds, ten are seconds.
  if (first > 1e12) return only('ms');
  if (first > 1e9) return only('s');
  if (!(step > 0)) return only('s');
  const ranked = readings
    .map((reading) => ({ reading, worth: worthOf(reading, ratedAh) }))
    .sort((a, b) => b.worth - a.worth);
  const best = ranked[0]!;
  return {
    chosen: best.reading,
    others: ranked
      .slice(1)
      .filter(
        ({ worth, reading }) =>
          worth > best.worth - NEARLY && worth > -2 && reading.durationS >= 60,
      )
      .map(({ reading }) => reading),
    isSerial: false,
    isUnclear: best.worth <= UNCLEAR,
  };
}

/** Whether a number is a date of these decades as spreadsheets count them. */
export const isSerialDay = (value: number): boolean => value > FIRST_SERIAL && value < LAST_SERIAL;

/** Start of spreadsheet day numbers on the wall clock, s since 1970. */
export const serialStartS = (serial: number): number => (serial - SPREADSHEET_EPOCH) * 86_400;

const spanWords = (seconds: number): string =>
  seconds >= 2 * 86_400
    ? `${(seconds / 86_400).toFixed(1)} days`
    : seconds >= 7200
      ? `${(seconds / 3600).toFixed(1)} h`
      : seconds >= 120
        ? `${(seconds / 60).toFixed(1)} min`
        : `${seconds.toFixed(0)} s`;

/** What a reading makes of the log, in words. */
export const readingWords = ({ unit, intervalS, durationS, movedAh }: TimeReading): string =>
  `${TIME_UNIT_WORDS[unit]}: a row every ${intervalS.toPrecision(3)} s, ${spanWords(durationS)} in all${movedAh === null ? '' : `, ${movedAh.toPrecision(4)} Ah moved`}`;

/** Findings of a settled column: a question where another reading is possible. */
export function timeFindings(settled: TimeSettled, told: boolean): Finding[] {
  const { chosen, others, isSerial } = settled;
  if (told)
    return [
      {
        code: 'time-told',
        text: `Time was read in ${TIME_UNIT_WORDS[chosen.unit]}, as a person said.`,
        severity: 'note',
      },
    ];
  if (others.length > 0)
    return [
      {
        code: 'time-guessed',
        text: `The time column has no unit and can be read in more than one way. Taken as ${readingWords(chosen)}; possible, too: ${others.map(readingWords).join('; ')}. Say which it is.`,
        severity: 'warning',
      },
    ];
  if (isSerial)
    return [
      {
        code: 'time-day-numbers',
        text: 'Time was read as a spreadsheet’s day numbers, 1 being a day.',
        severity: 'note',
      },
    ];
  return chosen.unit === 's'
    ? []
    : [
        {
          code: 'time-unit-found',
          text: `The time column has no unit; by its values it was read as ${readingWords(chosen)}.`,
          severity: 'note',
        },
      ];
}

/**
 * Whether time cells group their digits by thousands with the mark that is not the decimal one:
 * `999`, `1.000`, `1.010`. A leading `0.` is a decimal point.
 */
export function groupsThousands(cells: readonly string[], decimalMark: '.' | ','): boolean {
  const other = decimalMark === ',' ? '\\.' : ',';
  const grouped = new RegExp(`^[1-9]\\d{0,2}(?:${other}\\d{3})+(?:\\${decimalMark}\\d{1,9})?$`);
  const plain = new RegExp(`^\\d{1,3}(?:\\${decimalMark}\\d{1,9})?$`);
  let found = 0;
  for (const cell of cells) {
    const text = cell.trim();
    if (text === '' || text.length > 32) continue;
    if (grouped.test(text)) found++;
    else if (!plain.test(text)) return false;
  }
  return found > 0;
}
