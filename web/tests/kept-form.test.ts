import { describe, expect, it } from 'vitest';
import { letterDraft, letterText } from '@/features/money/dispute/letter-draft';
import { mergeConflict } from '@/kit/form/conflict';
import { keptForm, retyped } from '@/kit/form/kept-form';

const over = { version: 1, minutes: 10, refund: null, prices: { First: 40, Second: null } };

describe('what was typed on an earlier visit', () => {
  it('is laid over what others stored meanwhile: theirs stays, what both changed is asked', () => {
    const typed = { ...over, minutes: 30, prices: { First: 44, Second: null } };
    const now = { ...over, version: 3, refund: 120, prices: { First: 42, Second: 30 } };
    const { values, clashes, isOld } = retyped({ typed, over }, now);
    expect(values).toEqual({
      version: 3,
      minutes: 30,
      refund: 120,
      prices: { First: 44, Second: 30 },
    });
    expect(clashes).toEqual([{ name: 'prices.First', mine: 44, theirs: 42 }]);
    expect(isOld).toBe(false);
  });

  it('is nothing any more where it was stored', () => {
    const typed = { ...over, minutes: 30 };
    expect(retyped({ typed, over }, { ...typed, version: 2 }).isOld).toBe(true);
    expect(retyped({ typed, over }, over)).toMatchObject({ clashes: [], values: typed });
  });

  it('is only read where it was kept as such', () => {
    for (const kept of [null, 'x', [], { minutes: 3 }, { typed: {} }, { typed: [], over: {} }])
      expect(keptForm(kept)).toBeNull();
    expect(keptForm({ typed: { a: 1 }, over: {} })).toEqual({ typed: { a: 1 }, over: {} });
  });
});

describe('two people at once', () => {
  it('each keep a price of their own', () => {
    const first = { version: 1, prices: { First: null, Second: null } };
    const { merged, clashes } = mergeConflict<Record<string, unknown>>(
      first,
      { version: 1, prices: { First: 44, Second: null } },
      { version: 2, prices: { First: null, Second: 30, Third: 5 } },
    );
    expect(merged).toEqual({ version: 2, prices: { First: 44, Second: 30, Third: 5 } });
    expect(clashes).toEqual([]);
  });
});

describe('a letter that was typed', () => {
  const body = {
    type: 'doc',
    content: [
      { type: 'paragraph', content: [{ type: 'text', text: 'Dear' }, { type: 'hardBreak' }] },
      {
        type: 'bulletList',
        content: [
          {
            type: 'listItem',
            content: [{ type: 'paragraph', content: [{ type: 'text', text: 'one' }] }],
          },
        ],
      },
    ],
  };

  it('is read back, and as plain text line by line', () => {
    expect(letterDraft({ version: 2, title: 'T', body })).toEqual({ version: 2, title: 'T', body });
    for (const wrong of [null, 3, { version: 'x' }, { version: 1, title: 'T', body: null }])
      expect(letterDraft(wrong)).toBeNull();
    expect(letterText(body)).toBe('Dear\none\n');
  });
});
