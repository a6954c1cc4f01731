import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Font } from '@react-pdf/renderer';
import { sfntOf } from './sfnt';

/** Families in the order glyphs are looked for: Latin, then Greek, then the rest of Latin. */
// eslint-disable-next-line no-restricted-syntax -- The library takes a list where its types say one name.
export const FONT_STACK = ['Inter', 'Inter Greek', 'Inter Extended'] as unknown as string;

/**
 * Other forms of glyphs beside some others: nothing that is printed here needs one, and looking for
 * them takes longer than setting the text.
 */
const SUBSTITUTIONS = ['GSUB'];

let registered = false;

/** Registers the embedded fonts once per worker. */
export function registerFonts(): void {
  if (registered) return;
  const require = createRequire(import.meta.url);
  const file = (subset: string, weight: number) => {
    const woff = readFileSync(
      require.resolve(`@fontsource/inter/files/inter-${subset}-${weight}-normal.woff`),
    );
    return `data:font/otf;base64,${sfntOf(woff, SUBSTITUTIONS).toString('base64')}`;
  };
  for (const [family, subset] of [
    ['Inter', 'latin'],
    ['Inter Greek', 'greek'],
    ['Inter Extended', 'latin-ext'],
  ] as const) {
    Font.register({
      family,
      fonts: [400, 600].map((fontWeight) => ({ src: file(subset, fontWeight), fontWeight })),
    });
  }
  Font.registerHyphenationCallback((word) => [word]);
  registered = true;
}
