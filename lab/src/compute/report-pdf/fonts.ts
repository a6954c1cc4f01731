import { Font } from '@react-pdf/renderer';
import { FONT_SUBSETS, fontFile } from '../letters';
import { sfntOf } from './sfnt';

const familyOf = (subset: (typeof FONT_SUBSETS)[number]): string =>
  subset === 'latin' ? 'Inter' : `Inter ${subset}`;

/** Families in the order glyphs are looked for: Latin first. */
// eslint-disable-next-line no-restricted-syntax -- The library takes a list where its types say one name.
export const FONT_STACK = FONT_SUBSETS.map(familyOf) as unknown as string;

/**
 * Other forms of glyphs beside some others: nothing that is printed here needs one, and looking for
 * them takes longer than setting the text.
 */
const SUBSTITUTIONS = ['GSUB'];

let registered = false;

/** Registers the embedded fonts once per worker. */
export function registerFonts(): void {
  if (registered) return;
  const file = (subset: (typeof FONT_SUBSETS)[number], weight: number) =>
    `data:font/otf;base64,${sfntOf(fontFile(subset, weight), SUBSTITUTIONS).toString('base64')}`;
  for (const subset of FONT_SUBSETS)
    Font.register({
      family: familyOf(subset),
      fonts: [400, 600].map((fontWeight) => ({ src: file(subset, fontWeight), fontWeight })),
    });
  Font.registerHyphenationCallback((word) => [word]);
  registered = true;
}
