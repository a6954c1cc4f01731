import { CLAIM_KINDS, CLAIM_WORDS, type ClaimKind } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { nameWords } from './words';

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
