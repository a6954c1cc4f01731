/** One command of a program message (IEEE 488.2, 7; SCPI-99, 6). */
export interface MessageUnit {
  /** Whole header in capitals with its path, such as `MEAS:VOLT`; common commands begin with `*`. */
  header: string;
  isQuery: boolean;
  parameters: string[];
}

/** Splits at a mark outside quotes and brackets. */
function splitOutside(text: string, mark: string): string[] {
  const parts: string[] = [];
  let part = '';
  let quote = '';
  let depth = 0;
  for (const character of text) {
    if (quote) {
      if (character === quote) quote = '';
    } else if (character === '"' || character === "'") quote = character;
    else if (character === '(') depth++;
    else if (character === ')') depth--;
    else if (character === mark && depth === 0) {
      parts.push(part);
      part = '';
      continue;
    }
    part += character;
  }
  return [...parts, part];
}

/**
 * Units of a message. A header without a leading colon goes on from the path of the one before it.
 */
export function parseMessage(message: string): MessageUnit[] {
  let path: string[] = [];
  return splitOutside(message, ';').flatMap((raw): MessageUnit[] => {
    const text = raw.trim();
    if (text === '') return [];
    const at = text.search(/\s/);
    const word = at < 0 ? text : text.slice(0, at);
    const rest = at < 0 ? '' : text.slice(at + 1).trim();
    const isQuery = word.endsWith('?');
    const bare = (isQuery ? word.slice(0, -1) : word).toUpperCase();
    const parameters = rest === '' ? [] : splitOutside(rest, ',').map((one) => one.trim());
    if (bare.startsWith('*')) return [{ header: bare, isQuery, parameters }];
    const absolute = bare.startsWith(':');
    const names = (absolute ? bare.slice(1) : bare).split(':');
    const full = absolute ? names : [...path, ...names];
    path = full.slice(0, -1);
    return [{ header: full.join(':'), isQuery, parameters }];
  });
}

/**
 * Whether a header is one of a command written as in a manual: `MEASure:VOLTage`, with `[:NEXT]`
 * for what may be left out. Each word is given in its short or its long form.
 */
export function headerMatches(pattern: string, header: string): boolean {
  const words = [...pattern.matchAll(/(\[)?:?([A-Za-z*]+)\]?/g)].map(([, open, word]) => ({
    optional: open !== undefined,
    long: word!.toUpperCase(),
    short: word!.replace(/[a-z]/g, '').toUpperCase(),
  }));
  const given = header.split(':');
  const fits = (w: number, g: number): boolean => {
    const word = words[w];
    if (!word) return g === given.length;
    const name = given[g];
    if (name !== undefined && (name === word.long || name === word.short) && fits(w + 1, g + 1))
      return true;
    return word.optional && fits(w + 1, g);
  };
  return fits(0, 0);
}

/** Numbers of a channel list such as `(@1:3,7)`. @throws RangeError for another shape. */
export function channelList(text: string): number[] {
  const match = /^\(@([\d:,\s]+)\)$/.exec(text);
  if (!match) throw new RangeError(`Expected a channel list such as (@1:3); found ${text}.`);
  return match[1]!.split(',').flatMap((part) => {
    const [from, to = from] = part.split(':').map(Number);
    if (!(Number.isInteger(from) && Number.isInteger(to) && to! >= from! && to! - from! < 1000))
      throw new RangeError(`Expected channels in order; found ${part}.`);
    return Array.from({ length: to! - from! + 1 }, (_, i) => from! + i);
  });
}
