import { describe, expect, it } from 'vitest';
import {
  actorOfToken,
  beginParallelCharge,
  endParallelCharge,
  listRecipes,
  listTokens,
  makeToken,
  MOST_A_MINUTE,
  parallelCharges,
  revokeToken,
  saveRecipe,
} from '../src/bench';
import { NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';
import {
  clock,
  setClock,
  fresh,
  lab,
  lotId,
  recipe,
  technician,
  usePlanningLab,
} from '../testing/planning-lab';

usePlanningLab();

describe('recipes', () => {
  it('ship with the app and keep every version', async () => {
    expect((await listRecipes(lab(), technician, {})).map(({ name }) => name)).toContain(
      'Capacity retention',
    );
    const own = {
      name: 'Half rate',
      purpose: 'own' as const,
      attendedOnly: false,
      steps: (await recipe('Claim check')).steps,
    };
    const { id } = await saveRecipe(lab(), fresh.admin, own);
    expect((await failure(saveRecipe(lab(), fresh.admin, own))).code).toBe('duplicate');
    const changed = await saveRecipe(lab(), fresh.admin, {
      ...own,
      id,
      rowVersion: 1,
      steps: own.steps.slice(0, 3),
      note: 'no storage',
    });
    expect(changed.number).toBe(2);
    expect(
      (await failure(saveRecipe(lab(), fresh.admin, { ...own, id, rowVersion: 1 }))).code,
    ).toBe('conflict');
    const rows = await lab().store.bench.recipeVersions.find({ recipeId: id });
    expect(rows.map(({ steps }) => steps.length)).toEqual([5, 3]);
    expect((await failure(saveRecipe(lab(), technician, { ...own, name: 'Mine' }))).code).toBe(
      'notAllowed',
    );
  });
  it('are refused where they make no sense, with the step', async () => {
    const bad = await failure(
      saveRecipe(lab(), fresh.admin, {
        name: 'Bad',
        purpose: 'own',
        attendedOnly: false,
        steps: [
          { kind: 'rest', minutes: 5 },
          {
            kind: 'charge',
            current: { in: 'It', value: 0.5 },
            limitV: null,
            taperIt: 0.6,
            maxHours: null,
            limitAh: null,
          },
        ],
      }),
    );
    expect(bad.message).toContain('Step 2');
    expect(
      (
        await failure(
          saveRecipe(lab(), fresh.admin, {
            name: 'Bad',
            purpose: 'own',
            attendedOnly: false,
            steps: [],
          }),
        )
      ).code,
    ).toBe('invalid');
  });
});

it('tokens have a scope, a limit and an end', async () => {
  expect(
    (await failure(makeToken(lab(), technician, { name: 'mine', scopes: ['read'] }))).code,
  ).toBe('notAllowed');
  const { id, token } = await makeToken(lab(), fresh.admin, {
    name: 'bench computer',
    scopes: ['bench'],
  });
  expect((await actorOfToken(lab(), `Bearer ${token}`, 'bench')).name).toContain('bench computer');
  expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'write'))).code).toBe('notAllowed');
  expect((await failure(actorOfToken(lab(), 'Bearer dusk_wrong', 'bench'))).code).toBe(
    'notSignedIn',
  );
  expect((await failure(actorOfToken(lab(), null, 'bench'))).code).toBe('notSignedIn');
  await lab().store.bench.tokens.update({ windowCount: MOST_A_MINUTE, windowAt: clock }, { id });
  expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'bench'))).code).toBe('tooMany');
  setClock(new Date(clock.getTime() + 61_000));
  expect((await actorOfToken(lab(), `Bearer ${token}`, 'bench')).tokenId).toBe(id);
  setClock(NOW);
  await revokeToken(lab(), fresh.admin, { id });
  expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'bench'))).code).toBe('notSignedIn');
  expect((await listTokens(lab(), fresh.admin, {}))[0]).toMatchObject({
    name: 'bench computer',
    by: 'Ada',
  });
  expect(JSON.stringify(await listTokens(lab(), fresh.admin, {}))).not.toContain('hash');
});

it('a parallel bank that is full too early is said at once', async () => {
  const bank = {
    lotId,
    cells: 4,
    fromSoc: 0.3,
    supplyA: 10,
    startedAt: new Date('2026-03-03T09:00:00Z'),
    voltagesEqual: true as const,
  };
  const { id } = await beginParallelCharge(lab(), technician, bank);
  expect(
    (
      await failure(
        endParallelCharge(lab(), technician, { id, fullAt: new Date('2026-03-03T08:00:00Z') }),
      )
    ).code,
  ).toBe('invalid');
  const judged = await endParallelCharge(lab(), technician, {
    id,
    fullAt: new Date('2026-03-03T10:00:00Z'),
  });
  expect(judged.tooEarly).toBe(true);
  expect((await parallelCharges(lab(), technician, { lotId }))[0]!.judged!.atMostAh).toBeCloseTo(
    10 / 4 / 0.7,
    6,
  );
  expect(
    (
      await failure(
        beginParallelCharge(lab(), technician, { ...bank, voltagesEqual: false as never }),
      )
    ).message,
  ).toContain('Compare the voltages');
});
