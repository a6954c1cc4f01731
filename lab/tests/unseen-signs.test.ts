import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPersonWithPassword, changeSettings, labSettings, signIn } from '../src/people';
import { plainStrings, plainText } from '../src/shared/plain-strings';
import { takeIn } from '../src/suppliers';
import { randomUUID } from 'node:crypto';
import { type FreshLab, freshLab } from '../testing/fresh-lab';

/** Turns what follows, hides, rings or ends what a reader sees. */
const UNSEEN = ['\u202e', '\u2066', '\u2069', '\u0000', '\u0007', '\u001b[31m', '\u009b', '\ufeff'];
const HAS_UNSEEN =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff]/;

describe('signs that are not seen', () => {
  it('go out of texts, and only they', () => {
    for (const sign of UNSEEN) {
      const text = plainText(`Marl${sign} Cells`);
      expect(HAS_UNSEEN.test(text)).toBe(false);
      expect(text.replace('[31m', '')).toBe('Marl Cells');
    }
    const kept = 'Zeile 1\nZeile 2\tΩ µ é 电池 – “so” 🔋';
    expect(plainText(kept)).toBe(kept);
  });

  it('go out of everything inside, whatever its shape', () => {
    const shape = fc.letrec((tie) => ({
      any: fc.oneof(
        { maxDepth: 4 },
        fc.string({ unit: 'binary' }),
        fc.double(),
        fc.constant(null),
        fc.array(tie('any')),
        fc.dictionary(fc.string(), tie('any')),
      ),
    })).any;
    const textsIn = (value: unknown): string[] => {
      if (typeof value === 'string') return [value];
      if (typeof value !== 'object' || value === null) return [];
      return Object.values(value).flatMap(textsIn);
    };
    fc.assert(
      fc.property(shape, (value) => {
        const plain = plainStrings(value);
        expect(textsIn(plain).some((text) => HAS_UNSEEN.test(text))).toBe(false);
        // Once more changes nothing.
        expect(plainStrings(plain)).toEqual(plain);
      }),
    );
  });

  it('stay in what is evidence, and leave bytes and days alone', () => {
    const bytes = Uint8Array.of(0, 7, 27);
    const at = new Date('2026-03-02');
    const given = { offer: 'a\u202eb', title: 'a\u202eb', bytes, at };
    expect(plainStrings(given, ['offer'])).toEqual({ offer: 'a\u202eb', title: 'ab', bytes, at });
    expect((plainStrings(given) as typeof given).bytes).toBe(bytes);
  });
});

describe('acts', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());

  it('store names without them, the offer as it was written, and passwords as they are', async () => {
    const { code } = await takeIn(fresh.lab, fresh.admin, {
      clientKey: randomUUID(),
      title: 'Work\u202eboats',
      supplierName: 'Marl\u0007 Cells',
      model: { name: 'Reed\ufeff 104', chemistry: 'LFP', format: 'prism' },
      quantity: 1,
      offer: 'cells \u202eas new',
      claim: [{ kind: 'condition', text: 'ne\u2066w' }],
    } as never);
    const { store } = fresh.lab;
    const lot = (await store.lots.one({ code }))!;
    expect(lot.title).toBe('Workboats');
    expect((await store.suppliers.one({ id: lot.supplierId }))!.name).toBe('Marl Cells');
    expect((await store.cellModels.one({ id: lot.modelId }))!.name).toBe('Reed 104');
    expect((await store.claimItems.one({ lotId: lot.id }))!.text).toBe('new');
    expect((await store.arrivals.offers.one({ lotId: lot.id }))!.text).toBe('cells \u202eas new');

    const password = 'seven grey \u0007 herons';
    const email = 'wren@lab.example';
    await addPersonWithPassword(fresh.lab, fresh.admin, {
      email,
      name: 'W\u202eren',
      role: 'technician',
      password,
    });
    expect(await signIn(fresh.lab, { email, password })).toMatchObject({ name: 'Wren' });
  });

  it('the lab’s name, which stands on every report, has none', async () => {
    const settings = await labSettings(fresh.lab, fresh.admin, {});
    const { labName: _name, id: _id, holdLimits: _limits, ...rest } = settings;
    await changeSettings(fresh.lab, fresh.admin, {
      ...rest,
      labName: 'Fennick\u202e Cells\u0000',
      reason: 'a name',
    });
    expect((await labSettings(fresh.lab, fresh.admin, {})).labName).toBe('Fennick Cells');
  });
});
