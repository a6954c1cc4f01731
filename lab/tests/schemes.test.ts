import { randomUUID } from 'node:crypto';
import { seededRandom } from '@dusk-tally/core/statistics';
import { type Condition, GRADE_FIGURE_NAMES, gradeFigure } from '@dusk-tally/core/verdicts';
import { describe, expect, it } from 'vitest';
import { recordReadings } from '../src/evidence';
import { schemeFields } from '../src/inputs';
import { keepBooks, lotBooks } from '../src/money';
import { endScheme, saveScheme } from '../src/verdicts';
import { failure } from '../testing/failure';
import {
  grades,
  page,
  save,
  seenOf,
  SHIPPED,
  tried,
  useGradesLab,
  withFirst,
} from '../testing/grades-lab';
import { fresh, ids, line, lines, lotId } from '../testing/holds-lab';

useGradesLab();

describe('a scheme', () => {
  it('is tried before it is kept, and does what was said', async () => {
    const before = await grades();
    expect(before.get(ids[2]!), 'it leaks').toBe('Recycle');
    expect(before.get(ids[6]!)).toBe('Second');
    const scheme = withFirst([{ kind: 'stateOfHealth', limit: 0.9 }]);
    const said = await tried({ ...scheme, grades: scheme.grades.filter((_, i) => i !== 1) });
    expect(said.moves.every(({ to }) => to === 'First')).toBe(true);
    expect(await grades(), 'trying changes nothing').toEqual(before);
    const moved = new Map(said.moves.map((one) => [one.cellId, one.to]));
    await save({ ...scheme, grades: scheme.grades.filter((_, i) => i !== 1) });
    for (const [id, grade] of await grades())
      expect(grade, String(id)).toBe(moved.has(id) ? moved.get(id) : before.get(id));
    expect(said.moved).toBe(said.moves.length);
    expect(said.moved).toBeGreaterThan(3);
    // And back: the version counts on.
    await save({ ...SHIPPED });
    expect(await grades()).toEqual(before);
    expect((await page()).schemes[0]!.version).toBe(3);
    expect((await page()).history.map(({ version }) => version)).toEqual([3, 2]);
  });

  it('a grade under another name keeps what its cells bring', async () => {
    const books = () => lotBooks(fresh.lab, fresh.admin, { lotId });
    const { typed } = await books();
    const gradePrices = { ...typed.gradePrices, Second: 38 };
    await keepBooks(fresh.lab, fresh.admin, { lotId, ...typed, gradePrices });
    const priceOf = async (name: string) =>
      (await books()).values.find(({ grade }) => grade === name)?.priceCents;
    const renamed = SHIPPED.grades.map((one) =>
      one.name === 'Second' ? { ...one, name: 'Good' } : one,
    );
    await save({ ...SHIPPED, grades: renamed });
    expect(await priceOf('Good')).toBe(3800);
    await save({ ...SHIPPED });
    expect(await priceOf('Second')).toBe(3800);
  });

  it('tried and kept are one, for a hundred schemes at random', async () => {
    const random = seededRandom(20_261_128);
    const pick = <T>(some: readonly T[]): T => some[Math.floor(random.uniform() * some.length)]!;
    const condition = (): Condition => {
      const kind = pick([...GRADE_FIGURE_NAMES, 'losesNoCharge', 'staysCool'] as const);
      if (kind === 'losesNoCharge' || kind === 'staysCool') return { kind };
      const { unit, from } = gradeFigure(kind);
      const limit =
        unit === 'share'
          ? from + random.uniform() * 1.1
          : unit === 'times'
            ? Math.floor(random.uniform() * 3)
            : unit === 'V'
              ? 2 + random.uniform() * 2
              : random.uniform() * 5;
      return { kind, limit: Number(limit.toFixed(4)) };
    };
    let kept = 0;
    let moves = 0;
    for (let i = 0; kept < 100 && i < 1000; i++) {
      const lists = Array.from({ length: 1 + Math.floor(random.uniform() * 3) }, () => {
        const all = Array.from({ length: 1 + Math.floor(random.uniform() * 2) }, condition);
        return all.filter(({ kind }, at) => all.findIndex((one) => one.kind === kind) === at);
      });
      const scheme = schemeFields.safeParse({
        ...SHIPPED,
        name: `Random ${i}`,
        grades: [
          ...lists.map((conditions, at) => ({ name: `G${at}`, conditions })),
          { name: 'Spares', conditions: [{ kind: 'stateOfHealth', limit: 0.011 }] },
          { name: 'Recycle', conditions: [] },
        ],
      });
      if (!scheme.success) continue;
      const before = await grades();
      const { flows, moves: listed, moved } = await tried(scheme.data);
      expect(moved).toBe(listed.length);
      await save(scheme.data);
      const after = await grades();
      const said = new Map(listed.map((one) => [one.cellId, one.to]));
      for (const [id, grade] of after)
        expect(said.has(id) ? said.get(id) : before.get(id), JSON.stringify(scheme.data)).toBe(
          grade,
        );
      expect(flows.reduce((sum, { cells }) => sum + cells, 0)).toBe(after.size);
      kept++;
      moves += moved;
    }
    expect(kept).toBe(100);
    // Judged anew from its figures every cell comes out the same, with the same reasons.
    const byScheme = await lines();
    await fresh.lab.store.transaction((transaction) =>
      fresh.lab.derive([{ what: 'cells', lotId }], transaction),
    );
    expect(await lines()).toEqual(byScheme);
    expect(moves).toBeGreaterThan(200);
    await save({ ...SHIPPED });
  });

  it('follows the lot’s median when another cell is read', async () => {
    await save(
      withFirst([
        { kind: 'acResistanceOfLot', limit: 1.1 },
        { kind: 'stateOfHealth', limit: 0.9 },
      ]),
    );
    // Nine readings from 0.41 to 0.65: the middle one is 0.53.
    expect((await line(0)).grade).toBe('First');
    const reading = (cell: number, value: number) =>
      recordReadings(fresh.lab, fresh.admin, {
        lotId,
        readings: [
          {
            cellId: ids[cell]!,
            kind: 'acResistance',
            value,
            decimals: 2,
            clientKey: randomUUID(),
          },
        ],
      });
    for (let cell = 9; cell < 20; cell++) await reading(cell, 0.3);
    const after = await line(0);
    expect(after.grade, 'by the new median of 0.3 it is too high').toBe('Second');
    expect(after.reasons[0]).toContain('AC resistance against the lot’s median 136.7');
    await save({ ...SHIPPED });
  });

  it('holds for a chemistry or a model alone, and ends', async () => {
    const strict = withFirst([{ kind: 'stateOfHealth', limit: 1.5 }]);
    const before = await grades();
    expect((await tried(strict, 'chemistry:NMC')).cells).toBe(0);
    await save({ ...strict, name: 'Strict' }, 'chemistry:LFP');
    expect([...(await grades()).values()]).not.toContain('First');
    // The house’s reaches nobody of that chemistry now.
    expect((await tried(withFirst([{ kind: 'stateOfHealth', limit: 1.4 }]))).cells).toBe(0);
    const [model] = (await page()).models;
    await save({ ...SHIPPED, name: 'Own' }, `model:${model!.id}`);
    expect(await grades()).toEqual(before);
    const end = async (scope: string) =>
      endScheme(fresh.lab, fresh.admin, { scope, seen: await seenOf(scope), reason: 'no more' });
    await end(`model:${model!.id}`);
    await end('chemistry:LFP');
    expect(await grades()).toEqual(before);
    expect((await failure(end('house'))).message).toMatch(/house scheme holds for all/);
    // Begun again it counts on.
    expect((await save({ ...strict, name: 'Strict' }, 'chemistry:LFP')).version).toBe(3);
    await end('chemistry:LFP');
  });

  it('is refused where it is no scheme, or somebody was faster', async () => {
    const asIs = async (scheme: object) => (await failure(save({ ...SHIPPED, ...scheme }))).message;
    expect(await asIs({ grades: SHIPPED.grades.slice(0, 4) })).toMatch(/takes what is left/);
    expect(
      await asIs({ grades: [...SHIPPED.grades.slice(1, 3).reverse(), ...SHIPPED.grades.slice(3)] }),
    ).toMatch(/No cell can reach it: whoever does is Utility already/);
    expect(await asIs({ atBest: { belowOneVolt: 'Gold', dangerous: 'Recycle' } })).toMatch(
      /one of the grades/,
    );
    expect(await asIs(withFirst([{ kind: 'stateOfHealth', limit: 80 }]))).toMatch(
      /Expected 1 to 200 %/,
    );
    expect(await asIs(withFirst([{ kind: 'recoveries', limit: 0.5 }]))).toMatch(/whole number/);
    expect(
      await failure(
        saveScheme(fresh.lab, fresh.admin, {
          scope: 'house',
          seen: 1,
          scheme: { ...SHIPPED, name: 'Late' },
          reason: 'too late',
        }),
      ),
    ).toMatchObject({ code: 'conflict' });
    expect((await failure(save({ ...SHIPPED }, 'model:99999'))).code).toBe('notFound');
  });

  it('says what the moved cells bring more', async () => {
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId });
    await keepBooks(fresh.lab, fresh.admin, {
      lotId,
      version: books.kept.version,
      linePct: 80,
      gradePrices: { First: 40, Second: 30, Utility: 20, Spares: 5, Recycle: 0 },
    });
    const first = withFirst([{ kind: 'stateOfHealth', limit: 0.96 }]);
    const { lots, moved, moves } = await tried(first);
    expect(moves.every(({ from, to }) => from === 'Second' && to === 'First')).toBe(true);
    expect(lots).toMatchObject([{ gainCents: moved * 1000, moved }]);
  });
});
