import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';

/** Parts of the shipped font: Latin with its extensions, Greek, Cyrillic. */
export const FONT_SUBSETS = [
  'latin',
  'greek',
  'latin-ext',
  'cyrillic',
  'greek-ext',
  'cyrillic-ext',
  'vietnamese',
] as const;

/** A part of the shipped font as a file: WOFF 1.0. */
export function fontFile(subset: (typeof FONT_SUBSETS)[number], weight: number): Buffer {
  const require = createRequire(import.meta.url);
  return readFileSync(
    require.resolve(`@fontsource/inter/files/inter-${subset}-${weight}-normal.woff`),
  );
}

type Parts = readonly fontkit.Font[];
let loaded: Parts | null = null;

/** Parts of the shipped font, read once. */
export function fontParts(): Parts {
  loaded ??= FONT_SUBSETS.map((subset) => {
    const made = fontkit.create(fontFile(subset, 400));
    if (!('characterSet' in made)) throw new TypeError('Expected one font in a file.');
    return made;
  });
  return loaded;
}

/** Width of a text set in a size, points. */
export function widthOf(text: string, size: number): number {
  const parts = fontParts();
  let width = 0;
  for (const letter of text) {
    const code = letter.codePointAt(0)!;
    const part = parts.find((one) => one.hasGlyphForCodePoint(code)) ?? parts[0]!;
    width += part.glyphForCodePoint(code).advanceWidth / part.unitsPerEm;
  }
  return width * size;
}

/**
 * A text that fits a width, shortened in its middle where it does not: the ends of a serial number
 * tell it from others.
 * @example fitted('short', 1000, 8) // 'short'
 */
export function fitted(text: string, width: number, size: number): string {
  if (widthOf(text, size) <= width) return text;
  const letters = [...text];
  for (let kept = letters.length - 1; kept > 1; kept--) {
    const [head, tail] = [Math.ceil(kept / 2), Math.floor(kept / 2)];
    const short = `${letters.slice(0, head).join('')}…${letters.slice(letters.length - tail).join('')}`;
    if (widthOf(short, size) <= width) return short;
  }
  return '…';
}
