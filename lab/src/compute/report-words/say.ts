/**
 * Words of a language by the English ones: whole texts, or texts with holes. `{x}` takes words that
 * are said in the language too, `{=x}` a name that stays as it is,
 * `{#x}` a number, `{x*}` a list such as `a, b and c`.
 */
export type Catalogue = readonly (readonly [english: string, said: string])[];

/** How a language writes what stands in texts. */
export interface Language {
  catalogue: Catalogue;
  /** Between the whole and the decimals of a number. */
  decimal: ',' | '.';
  and: string;
  /** A day from year, month and day. */
  day: (year: string, month: string, day: string) => string;
}

interface Template {
  pattern: RegExp;
  holes: { name: string; kind: 'words' | 'name' | 'list' }[];
  said: string;
}

const HOLE = /\{([=#]?)(\w+)(\*?)\}/g;
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

function templateOf([english, said]: readonly [string, string]): Template {
  const holes: Template['holes'] = [];
  let pattern = '';
  let at = 0;
  for (const hole of english.matchAll(HOLE)) {
    pattern += `${escaped(english.slice(at, hole.index))}${hole[1] === '#' ? '([\\d.]+)' : '(.+?)'}`;
    holes.push({
      name: hole[2]!,
      kind: hole[1] === '=' ? 'name' : hole[3] === '*' ? 'list' : 'words',
    });
    at = hole.index + hole[0].length;
  }
  return { pattern: new RegExp(`^${pattern}${escaped(english.slice(at))}$`, 's'), holes, said };
}

/** Letters a catalogue would have to know; units, names of cells and numbers are none. */
const hasWords = (text: string): boolean => /(?<![\w-])\p{Ll}{4,}/u.test(text);

/**
 * Says English texts of a report in a language.
 * @param missed told of each text the catalogue does not know; it stays English.
 */
export function speaker(
  language: Language,
  missed: (text: string) => void = () => undefined,
): { say: (text: string) => string; number: (text: string) => string } {
  const whole = new Map(language.catalogue);
  // The one with the most words of its own is meant.
  const templates = language.catalogue
    .filter(([english]) => english.includes('{'))
    .map((entry) => ({ ...templateOf(entry), own: entry[0].replace(HOLE, '').length }))
    .sort((a, b) => b.own - a.own);
  const number = (text: string): string =>
    text
      .replace(/(?<!\d)(\d{4})-(\d{2})-(\d{2})(?!\d)/g, (_, ...[y, m, d]: string[]) =>
        language.day(y!, m!, d!),
      )
      .replace(/(?<![\d.\w])(\d+)\.(\d+)(?![\d.]*\d)/g, `$1${language.decimal}$2`);
  const list = (text: string): string =>
    text
      .split(' and ')
      .map((part) => part.split(', ').map(say).join(', '))
      .join(` ${language.and} `);
  const said = { words: (text: string) => say(text), name: (text: string) => text, list };
  function say(text: string): string {
    const known = whole.get(text);
    if (known !== undefined) return known;
    for (const { pattern, holes, said: words } of templates) {
      const found = pattern.exec(text);
      if (!found) continue;
      const fills = new Map(holes.map(({ name, kind }, i) => [name, said[kind](found[i + 1]!)]));
      return words.replace(HOLE, (_, __, name: string) => fills.get(name)!);
    }
    if (hasWords(text)) missed(text);
    return number(text);
  }
  return { say, number };
}
