/** Code points of the shipped font, hexadecimal, as ranges: Latin with its extensions, Greek, Cyrillic. */
const RANGES = [
  '20-7e a0-ac ae-148 14a-1c3 1c5-254 256-27b 27e-284 286-290 292-2a4 2a6-2cc 2ce-2d7 2da',
  '2dc-301 303-304 308-309 323 374-376 37a-37f 384-38a 38c 38e-3a1 3a3-3d7 3dc-3dd 3f0-3f6',
  '3f9-3fa 3fc-479 480-49d 4a0-4ff 52f 1d00 1d0d 1d1b 1d43 1d47-1d49 1d4d 1d4f-1d50 1d52',
  '1d56-1d58 1d5b 1d62-1d65 1d9c 1da0 1dbb 1dbf 1e00-1e9b 1e9d-1f15 1f18-1f1d 1f20-1f45',
  '1f48-1f4d 1f50-1f57 1f59 1f5b 1f5d 1f5f-1f7d 1f80-1fb4 1fb6-1fc4 1fc6-1fd3 1fd6-1fdb',
  '1fdd-1fef 1ff2-1ff4 1ff6-1ffe 2002 2009 200b 2013-2014 2018-201a 201c-201e 2020 2022 2026',
  '2032-2033 2039-203a 2044 20a0-20af 20b1-20b5 20b8-20ba 20bc-20bf 2113 2116 2122 2191 2193',
  '2212 2c7c 2c7f 2dff a69f a7ff feff ffff',
].join(' ');

/** Every letter the shipped font has. */
export const LETTERS: ReadonlySet<number> = new Set(
  RANGES.split(' ').flatMap((range) => {
    const [from, to = from] = range.split('-').map((code) => parseInt(code, 16)) as [
      number,
      number?,
    ];
    return Array.from({ length: to - from + 1 }, (_, i) => from + i);
  }),
);

/** Blanks and signs that are written as others that look alike. */
const ALIKE: Readonly<Record<string, string>> = {
  '\u202f': '\u00a0',
  '\u2009': '\u00a0',
  '\u2007': '\u00a0',
  '\u2126': 'Ω',
  '\u2011': '-',
  '\u200b': '',
  '\u00ad': '',
  '≥': '>=',
  '≤': '<=',
  '≈': '~',
};
/** What stands in for a letter that cannot be printed. */
export const STAND_IN = '?';

const isPrinted = (letter: string): boolean =>
  letter === '\n' || letter === '\t' || LETTERS.has(letter.codePointAt(0)!);
const alike = (text: string): string =>
  text
    .normalize('NFC')

    .replace(/[\u202f\u2009\u2007\u2126\u2011\u200b\u00ad≥≤≈]/g, (one) => ALIKE[one]!);

/** Letters of a text that a PDF cannot print, each once. */
export const unprintable = (text: string): string[] => [
  ...new Set([...alike(text)].filter((letter) => !isPrinted(letter))),
];

/** A text as it is printed: a letter the font lacks is stood in for, never left out or another one. */
export const printable = (text: string): string =>
  [...alike(text)].map((letter) => (isPrinted(letter) ? letter : STAND_IN)).join('');

/** Every text of a snapshot as it is printed; pictures stay. */
export function printed<Value>(value: Value): Value {
  if (typeof value === 'string')
    return (value.startsWith('data:') ? value : printable(value)) as Value;
  if (Array.isArray(value)) return value.map(printed) as Value;
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(
      Object.entries(value).map(([name, own]) => [name, printed(own)]),
    ) as Value;
  return value;
}
