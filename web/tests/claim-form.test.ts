import { describe, expect, it } from 'vitest';
import { claimFromDraft } from '../features/arrivals/claim-draft';
import { claimForm, claimValues, draftIn, type StoredItem } from '../features/arrivals/claim-form';
import { mergeConflict } from '../kit/form/conflict';

const capacity = (value: number): StoredItem => ({
  kind: 'capacity',
  value,
  text: null,
  conditions: { rateIt: 0.2 },
});
const mass = (value: number): StoredItem => ({ kind: 'mass', value, text: null, conditions: {} });

/** What two people make of a claim: the items that would be sent, and what is asked. */
function both(first: StoredItem[], mine: StoredItem[], theirs: StoredItem[]) {
  const { merged, clashes } = mergeConflict(
    claimValues(1, 1, first) as Record<string, unknown>,
    claimValues(1, 1, mine) as Record<string, unknown>,
    claimValues(1, 2, theirs) as Record<string, unknown>,
  );
  const typed = claimFromDraft(draftIn(merged as ReturnType<typeof claimValues>));
  return {
    items: 'claim' in typed ? typed.claim.map(({ kind, value }) => [kind, value]) : typed,
    asked: clashes.map(({ name }) => name),
    version: merged.version,
  };
}

describe('a claim two people change', () => {
  it('keeps what only the other one added, and what only this one changed', () => {
    expect(both([capacity(104)], [capacity(100)], [capacity(104), mass(1980)])).toEqual({
      items: [
        ['capacity', 100],
        ['mass', 1980],
      ],
      asked: [],
      version: 2,
    });
  });

  it('what the other one took out goes, unless it was changed here: then it is asked', () => {
    const first = [capacity(104), mass(1980)];
    expect(both(first, [capacity(100), mass(1980)], [capacity(104)]).items).toEqual([
      ['capacity', 100],
    ]);
    expect(both(first, [capacity(104), mass(1990)], [capacity(104)])).toMatchObject({
      asked: ['mass'],
    });
  });

  it('an item taken out here outlives a reload: nothing is kept as something', () => {
    const kept = JSON.parse(JSON.stringify(claimValues(1, 1, [capacity(104)]))) as object;
    expect({ ...claimValues(1, 1, [capacity(104), mass(1980)]), ...kept }).toMatchObject({
      mass: null,
    });
  });

  it.each([
    ['a capacity that is no number', { value: 'many', conditions: {} }, 'capacity'],
    ['one below nothing', { value: '-3', conditions: {} }, 'capacity'],
  ])('%s is refused at its item', (_what, draft, kind) => {
    const result = claimForm.safeParse({ ...claimValues(1, 1, []), [kind]: draft });
    expect(result.error?.issues[0]?.path).toEqual([kind]);
  });
});
