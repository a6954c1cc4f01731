import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { sfntOf } from '../src/compute/report-pdf/sfnt';

const require = createRequire(import.meta.url);
/** What sets the reports’ text reads fonts with it. */
const fontkit = require('fontkit') as {
  create: (bytes: Uint8Array) => {
    numGlyphs: number;
    unitsPerEm: number;
    directory: { tables: Record<string, { length: number }> };
    layout: (
      text: string,
      features?: Record<string, boolean>,
    ) => {
      glyphs: { id: number; path: { toSVG: () => string } }[];
      positions: { xAdvance: number }[];
    };
  };
};

const SUBSETS = ['latin', 'greek', 'latin-ext'];
const woffOf = (subset: string, weight = 400) =>
  readFileSync(require.resolve(`@fontsource/inter/files/inter-${subset}-${weight}-normal.woff`));
const TEXT: Record<string, string> = {
  latin: 'Capacity 104.73 ± 0.85 Ah, at least 91.35; “too close” – 0.42 mΩ × 2',
  greek: 'ΔΩμ',
  'latin-ext': 'ĄřŻœ',
};

describe('fonts of reports, unpacked', () => {
  it.each(SUBSETS)('%s: every table is there, every glyph the same', (subset) => {
    const woff = woffOf(subset);
    const [packed, open] = [fontkit.create(woff), fontkit.create(sfntOf(woff))];
    expect(Object.keys(open.directory.tables).sort()).toEqual(
      Object.keys(packed.directory.tables).sort(),
    );
    expect(open.numGlyphs).toBe(packed.numGlyphs);
    const told = (font: typeof open) => {
      const { glyphs, positions } = font.layout(TEXT[subset]!);
      return glyphs.map(({ id, path }, i) => [id, positions[i]!.xAdvance, path.toSVG()]);
    };
    expect(told(open)).toEqual(told(packed));
    expect(told(open).length).toBeGreaterThan(2);
  });

  it('leaves out what is not wanted, and nothing else', () => {
    const woff = woffOf('latin', 600);
    const [whole, less] = [sfntOf(woff), sfntOf(woff, ['GSUB'])].map((font) =>
      fontkit.create(font),
    );
    expect(Object.keys(whole!.directory.tables)).toContain('GSUB');
    const { GSUB: _left, ...rest } = whole!.directory.tables;
    expect(Object.keys(less!.directory.tables).sort()).toEqual(Object.keys(rest).sort());
    for (const [tag, { length }] of Object.entries(rest))
      expect(less!.directory.tables[tag]!.length).toBe(length);
  });

  it('refuses what is no such font, and one that is damaged', () => {
    expect(() => sfntOf(Buffer.from('wOF2 and so on'))).toThrow(/WOFF 1\.0/);
    expect(() => sfntOf(Buffer.alloc(3))).toThrow(/WOFF 1\.0/);
    const damaged = Buffer.from(woffOf('greek'));
    damaged.fill(0xff, 400, 1400);
    expect(() => sfntOf(damaged)).toThrow();
  });
});
