import { addDays, dayOf, daysInMonth, mondayOfWeek, weeksInYear } from './calendar';
import { type CodeReading, normaliseCode } from './gbt-34014';

/** Parts a template can name, with the lengths each may have; empty means any length. */
export const TEMPLATE_PARTS = {
  year: [1, 2, 4],
  month: [1, 2],
  week: [2],
  day: [2, 3],
  serial: [],
  plant: [],
  maker: [],
  any: [],
} as const satisfies Record<string, readonly number[]>;
/** Name of a part a maker's own code may have, as written between braces. */
export type TemplatePart = keyof typeof TEMPLATE_PARTS;

/** Pattern of a maker's own code, as a lab writes it. */
export interface CodeTemplate {
  name: string;
  /** Such as `{plant:1}{year:2}{week:2}-{serial:5}`; text outside braces must stand as it is. */
  pattern: string;
}

/** A pattern made ready to read codes with. */
export interface CompiledTemplate {
  name: string;
  /** Parts in order. */
  parts: TemplatePart[];
  read: (text: string, context?: { arrivedOn?: string | null }) => CodeReading;
}

const MONTH_LETTERS = '123456789ABC';
/** Longer codes and patterns are no codes. */
const LONGEST = 200;

/** A piece of a pattern: text that must stand, or a part of certain characters. */
type Piece =
  | { text: string }
  /** `length` null: one or more. */
  | { digits: boolean; length: number | null };

const isDigit = (code: number): boolean => code >= 48 && code <= 57;
const isLetter = (code: number): boolean => code >= 65 && code <= 90;

/** How many characters of a part stand at a place, at most `most`. */
function runAt(code: string, from: number, digits: boolean, most: number): number {
  let length = 0;
  while (length < most && from + length < code.length) {
    const char = code.charCodeAt(from + length);
    if (!isDigit(char) && (digits || !isLetter(char))) break;
    length++;
  }
  return length;
}

/**
 * The parts of a code by a pattern, each open one as long as it can be; null where it has another
 * shape. Places tried in vain are remembered, so that no pattern takes longer than pieces × length².
 */
function matchPieces(code: string, pieces: readonly Piece[]): string[] | null {
  const width = code.length + 1;
  const inVain = new Uint8Array((pieces.length + 1) * width);
  const found: string[] = [];
  const from = (piece: number, at: number): boolean => {
    if (piece === pieces.length) return at === code.length;
    if (inVain[piece * width + at]) return false;
    const own = pieces[piece]!;
    if ('text' in own) {
      if (code.startsWith(own.text, at) && from(piece + 1, at + own.text.length)) return true;
    } else {
      const most = runAt(code, at, own.digits, own.length ?? code.length);
      const least = own.length ?? 1;
      for (let length = most; length >= least; length--) {
        found.push(code.slice(at, at + length));
        if (from(piece + 1, at + length)) return true;
        found.pop();
      }
    }
    inVain[piece * width + at] = 1;
    return false;
  };
  return from(0, 0) ? found : null;
}

/**
 * Turns a template into a reader of codes (handbook, chapter 1, "Other makers' codes").
 * @throws RangeError that says what is wrong with the pattern.
 */
export function compileTemplate(template: CodeTemplate): CompiledTemplate {
  if (template.pattern.length > LONGEST)
    throw new RangeError(`Expected a pattern of at most ${LONGEST} characters.`);
  const pattern = normaliseCode(template.pattern);
  const parts: TemplatePart[] = [];
  const pieces: Piece[] = [];
  let rest = pattern;
  while (rest !== '') {
    const open = rest.indexOf('{');
    const text = open < 0 ? rest : rest.slice(0, open);
    if (text.includes('}')) throw new RangeError(`“}” without “{” in ${template.pattern}.`);
    if (text !== '') pieces.push({ text });
    if (open < 0) break;
    const close = rest.indexOf('}', open);
    if (close < 0) throw new RangeError(`“{” without “}” in ${template.pattern}.`);
    pieces.push(pieceOf(rest.slice(open + 1, close), parts));
    rest = rest.slice(close + 1);
  }
  if (parts.length === 0)
    throw new RangeError('Expected at least one part in braces, such as {serial:6}.');
  if (parts.includes('week') && (parts.includes('month') || parts.includes('day')))
    throw new RangeError('Expected either a week, or a month and day, not both.');
  if (
    (parts.includes('month') || parts.includes('week') || parts.includes('day')) &&
    !parts.includes('year')
  )
    throw new RangeError('Expected a year beside the month, week or day.');
  return {
    name: template.name,
    parts,
    read: (codeText, context = {}) => {
      const code = normaliseCode(codeText.slice(0, 4 * LONGEST)).slice(0, LONGEST + 1);
      const match = code.length > LONGEST ? null : matchPieces(code, pieces);
      if (!match)
        return {
          ok: false,
          code,
          reason: 'shape',
          message: `${code.slice(0, 60) || 'An empty code'} does not have the shape ${pattern}.`,
        };
      const valueOf = (part: TemplatePart): string | null => {
        const at = parts.indexOf(part);
        return at < 0 ? null : match[at]!;
      };
      return readingOf(template.name, code, valueOf, context.arrivedOn ?? null);
    },
  };
}

function pieceOf(text: string, parts: TemplatePart[]): Piece {
  const match = /^([A-Z]+)(?::(\d{1,2}))?$/.exec(text);
  const name = match?.[1]!.toLowerCase() as TemplatePart | undefined;
  if (!match || !name || !Object.hasOwn(TEMPLATE_PARTS, name))
    throw new RangeError(
      `{${text}} is no part; known are ${Object.keys(TEMPLATE_PARTS).join(', ')}, each with its length, such as {serial:6}.`,
    );
  if (name !== 'any' && parts.includes(name))
    throw new RangeError(`The part ${name} stands twice; once is expected.`);
  const lengths: readonly number[] = TEMPLATE_PARTS[name];
  const length = match[2] === undefined ? null : Number(match[2]);
  if (lengths.length > 0 && (length === null || !lengths.includes(length)))
    throw new RangeError(`{${name}} needs a length of ${lengths.join(' or ')}.`);
  if (length === 0) throw new RangeError(`{${name}} needs a length above 0.`);
  parts.push(name);
  const digits = lengths.length > 0 && !(name === 'month' && length === 1);
  return { digits, length };
}

function readingOf(
  scheme: string,
  code: string,
  valueOf: (part: TemplatePart) => string | null,
  arrivedOn: string | null,
): CodeReading {
  const span = spanOf(code, valueOf, arrivedOn);
  if (span && 'reason' in span) return { ok: false, code, ...span };
  if (span && arrivedOn && span.from > arrivedOn)
    return {
      ok: false,
      code,
      reason: 'afterArrival',
      message: `${code} says produced on ${span.from} or later, after its arrival on ${arrivedOn}.`,
    };
  return {
    ok: true,
    code,
    scheme,
    maker: valueOf('maker'),
    product: null,
    chemistries: [],
    chemistryWords: null,
    specification: null,
    trace: valueOf('plant') ? `plant ${valueOf('plant')}` : null,
    producedFrom: span?.from ?? null,
    producedUntil: span?.until ?? null,
    serial: valueOf('serial'),
  };
}

type Span =
  | { from: string; until: string }
  | { reason: 'year' | 'month' | 'day' | 'noSuchDay'; message: string };

/** A year of one digit is the latest that ends so and is not after arrival; of two digits, 20xx. */
function yearOf(digits: string, arrivedOn: string | null): number {
  if (digits.length === 4) return Number(digits);
  if (digits.length === 2) return 2000 + Number(digits);
  const latest = Number((arrivedOn ?? '2029').slice(0, 4));
  return latest - ((((latest - Number(digits)) % 10) + 10) % 10);
}

function spanOf(
  code: string,
  valueOf: (part: TemplatePart) => string | null,
  arrivedOn: string | null,
): Span | null {
  const yearText = valueOf('year');
  if (yearText === null) return null;
  const year = yearOf(yearText, arrivedOn);
  const weekText = valueOf('week');
  if (weekText !== null) {
    const week = Number(weekText);
    if (week < 1 || week > weeksInYear(year))
      return {
        reason: 'day',
        message: `${code} says week ${week} of ${year}, which it does not have.`,
      };
    const monday = mondayOfWeek(year, week);
    return { from: monday, until: addDays(monday, 6) };
  }
  const monthText = valueOf('month');
  const dayText = valueOf('day');
  if (monthText === null) {
    const length = daysInMonth(year, 2) === 29 ? 366 : 365;
    if (dayText === null) return { from: dayOf(year, 1, 1), until: dayOf(year, 12, 31) };
    const day = Number(dayText);
    if (day < 1 || day > length)
      return {
        reason: 'noSuchDay',
        message: `${code} says day ${day} of ${year}, which has ${length}.`,
      };
    const date = addDays(dayOf(year, 1, 1), day - 1);
    return { from: date, until: date };
  }
  const month = monthText.length === 1 ? MONTH_LETTERS.indexOf(monthText) + 1 : Number(monthText);
  if (month < 1 || month > 12)
    return { reason: 'month', message: `${code} has month code ${monthText}, which is no month.` };
  if (dayText === null)
    return { from: dayOf(year, month, 1), until: dayOf(year, month, daysInMonth(year, month)) };
  const day = Number(dayText);
  if (day < 1 || day > daysInMonth(year, month))
    return {
      reason: 'noSuchDay',
      message: `${code} says day ${day} of month ${month} in ${year}, a day that month does not have.`,
    };
  return { from: dayOf(year, month, day), until: dayOf(year, month, day) };
}
