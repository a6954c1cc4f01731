import { CLAIM_KINDS, CLAIM_WORDS, type ClaimKind } from '@dusk-tally/core/arrivals';
import { z } from 'zod';

/** Names of fields whose own name does not say what a person sees. */
const NAMES: Readonly<Record<string, string>> = {
  ah: 'charge',
  ambientC: 'temperature of the room',
  attendedDays: 'days somebody is there',
  attendedFromMin: 'start of attended hours',
  attendedToMin: 'end of attended hours',
  cellId: 'cell',
  cellIds: 'cells',
  celsius: 'temperature',
  channelId: 'channel',
  clientKey: 'key of the request',
  clocksApart: 'clocks apart',
  countsApart: 'counter and integral apart',
  cursors: 'places in the records',
  disagrees: 'apart from the cell’s other results',
  disagreesEn: 'Eₙ above',
  dueOn: 'due date',
  email: 'e-mail address',
  fromSoc: 'state of charge at the start',
  fullAt: 'time it was full',
  gainPct: 'gain',
  instrumentId: 'instrument',
  lotId: 'lot',
  modelId: 'cell model',
  orderedOn: 'day of the order',
  arrivedOn: 'day of arrival',
  calibratedOn: 'day of calibration',
  outOfNothing: 'discharge over what was put in',
  pct: 'state of charge',
  personId: 'person',
  recipeId: 'recipe',
  runId: 'run',
  supplierName: 'supplier',
  title: 'short name',
  understated: 'capacity over the rated',
  wh: 'energy',
};

/** Units at the end of a name, as they are written. */
const UNITS: readonly [RegExp, string][] = [
  [/Mohm$/, 'mΩ'],
  [/Ohm$/, 'Ω'],
  [/Pct$/, '%'],
  [/PerL$/, 'Wh/L'],
  [/PerKg$/, 'Wh/kg'],
  [/Nm$/, 'N·m'],
  [/Mm2$/, 'mm²'],
  [/Mm$/, 'mm'],
  [/Ah$/, 'Ah'],
  [/Wh$/, 'Wh'],
  [/It$/, 'It'],
  [/(?<=[a-z])A$/, 'A'],
  [/(?<=[a-z])V$/, 'V'],
  [/(?<=[a-z])W$/, 'W'],
  [/(?<=[a-z])C$/, '°C'],
  [/(?<=[a-z])G$/, 'g'],
  [/(?<=[a-z])S$/, 's'],
  [/(?<=[a-z])M$/, 'm'],
  [/(?<=[a-z])H$/, 'h'],
  [/(?<=[a-z])K$/, 'K'],
];

/** A field’s name as a person reads it: `maxDischargeA` is *max discharge / A*. */
export function nameWords(name: string): string {
  const known = NAMES[name];
  if (known !== undefined) return known;
  const unit = UNITS.find(([pattern]) => pattern.test(name));
  const bare = unit ? name.replace(unit[0], '') : name;
  const words = bare
    .replace(/Ids?$/, '')
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .toLowerCase();
  return unit ? `${words} / ${unit[1]}` : words;
}

const kindOf = (item: unknown): ClaimKind | null => {
  const kind = typeof item === 'object' && item !== null && 'kind' in item ? item.kind : null;
  return CLAIM_KINDS.find((known) => known === kind) ?? null;
};

const isIndex = (step: PropertyKey): step is number => typeof step === 'number';

/** Where in what was sent something is wrong, as a person sees it; empty for the whole of it. */
export function fieldWords(path: readonly PropertyKey[], input: unknown): string {
  const words: string[] = [];
  let at: unknown = input;
  path.forEach((step, i) => {
    at = typeof at === 'object' && at !== null ? (at as Record<PropertyKey, unknown>)[step] : null;
    if (isIndex(step)) {
      const kind = kindOf(at);
      const list = String(path[i - 1] ?? 'line').replace(/s$/, '');
      words.push(kind ? CLAIM_WORDS[kind] : `${nameWords(list)} ${step + 1}`);
    } else if (isIndex(path[i + 1] ?? '')) return;
    // The value of a claimed item is the item; what it is claimed under has a name of its own.
    else if (i > 0 && (step === 'conditions' || (step === 'value' && isIndex(path[i - 1]!))))
      return;
    else words.push(nameWords(String(step)));
  });
  const text = words.join(', ');
  return text.charAt(0).toUpperCase() + text.slice(1);
}

const KINDS: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  array: 'a list',
  object: 'something with fields',
  record: 'something with fields',
  date: 'a date',
  null: 'nothing',
};

const FORMATS: Readonly<Record<string, string>> = {
  email: 'an e-mail address',
  date: 'a day such as 2026-11-27',
  datetime: 'a day and time',
  uuid: 'a key',
  url: 'an address',
};

/** A bound in words: of a text its length, of a list its number, of a number itself. */
function bound(
  way: 'least' | 'most',
  {
    origin,
    limit,
    inclusive,
  }: { origin: string; limit: number | bigint; inclusive: boolean | undefined },
): string {
  if (origin === 'string') {
    if (way === 'least' && limit === 1) return 'Expected some text.';
    return `Expected at ${way} ${limit} characters.`;
  }
  if (origin === 'array' || origin === 'set')
    return way === 'least' && limit === 1
      ? 'Expected at least one.'
      : `Expected at ${way} ${limit} of them.`;
  if (inclusive === false) return `Expected ${way === 'least' ? 'more' : 'less'} than ${limit}.`;
  return `Expected at ${way} ${limit}.`;
}

/** What was expected, in words of the person, for all that a schema does not say itself. */
export function refusalWords(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined
        ? 'It is missing.'
        : `Expected ${KINDS[issue.expected] ?? 'something else'}.`;
    case 'too_small':
      return bound('least', {
        origin: issue.origin,
        limit: issue.minimum,
        inclusive: issue.inclusive,
      });
    case 'too_big':
      return bound('most', {
        origin: issue.origin,
        limit: issue.maximum,
        inclusive: issue.inclusive,
      });
    case 'invalid_format':
      return `Expected ${FORMATS[issue.format] ?? 'another form'}.`;
    case 'invalid_value':
      return `Expected ${issue.values.length > 8 ? 'one of a list' : `one of ${issue.values.map(String).join(', ')}`}.`;
    case 'not_multiple_of':
      return issue.divisor === 1
        ? 'Expected a whole number.'
        : `Expected a multiple of ${issue.divisor}.`;
    case 'unrecognized_keys':
      return `Not known here: ${issue.keys.map(nameWords).join(', ')}.`;
    case 'invalid_union':
      return 'Expected one of the known forms.';
    default:
      return 'This is not what was expected.';
  }
}

/** The first thing wrong, with where it is, in one sentence. */
export function refusalOf(error: z.ZodError, input: unknown): { message: string; field: string } {
  const issue = error.issues[0]!;
  const where = fieldWords(issue.path, input);
  return {
    message: where === '' ? issue.message : `${where}: ${issue.message}`,
    field: issue.path.join('.'),
  };
}

z.config({ localeError: refusalWords });
