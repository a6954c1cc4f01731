import { createRequire } from 'node:module';
import { Font } from '@react-pdf/renderer';

/** Families in the order glyphs are looked for: Latin, then Greek, then the rest of Latin. */
// eslint-disable-next-line no-restricted-syntax -- The library takes a list where its types say one name.
export const FONT_STACK = ['Inter', 'Inter Greek', 'Inter Extended'] as unknown as string;

let registered = false;

/** Registers the embedded fonts once per worker. */
export function registerFonts(): void {
  if (registered) return;
  const require = createRequire(import.meta.url);
  const file = (subset: string, weight: number) =>
    require.resolve(`@fontsource/inter/files/inter-${subset}-${weight}-normal.woff`);
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
