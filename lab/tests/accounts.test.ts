import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import {
  addPerson,
  addPersonWithPassword,
  changeOwnPassword,
  changePerson,
  keepWidths,
  listPeople,
  oncePassword,
  ownWidths,
  passwordProblem,
  personOfSession,
  resetPassword,
  setPersonActive,
  signIn,
} from '../src/people';
import { failure } from '../testing/failure';
import { type FreshLab, freshLab, PASSWORD } from '../testing/fresh-lab';

describe('accounts', () => {
  let clock = new Date('2026-03-02T08:00:00Z');
  let fresh: FreshLab;
  let wren: Actor & { sessionEpoch: number };
  beforeAll(async () => {
    fresh = await freshLab(() => clock);
    const { person } = await addPerson(fresh.lab, fresh.admin, {
      email: 'wren@lab.example',
      name: 'Wren Hollow',
      role: 'technician',
    });
    const { once } = await resetPassword(fresh.lab, fresh.admin, { id: person.id });
    const first = await signIn(fresh.lab, { email: 'wren@lab.example', password: once });
    expect(first.passwordIsOnce).toBe(true);
    const changed = await changeOwnPassword(fresh.lab, first, { current: once, next: PASSWORD });
    wren = { ...first, ...changed };
  });
  afterAll(() => fresh.close());
  const come = (password: string, place = '10.0.0.1') =>
    signIn(fresh.lab, { email: 'wren@lab.example', password }, place);

  it('keeps how wide somebody wants their columns, for them alone', async () => {
    const { lab, admin } = fresh;
    await keepWidths(lab, wren, { table: 'cells', widths: { number: 200, grade: 90 } });
    await keepWidths(lab, wren, { table: 'runs', widths: { file: 300 } });
    // Dragged in two windows at once: one of both stands, and nothing breaks.
    const [a, b] = [{ number: 210 }, { number: 220 }];
    await Promise.all([a, b].map((widths) => keepWidths(lab, wren, { table: 'cells', widths })));
    const own = await ownWidths(lab, wren, {});
    expect(own.runs).toEqual({ file: 300 });
    expect([a, b]).toContainEqual(own.cells);
    expect(await ownWidths(lab, admin, {})).toEqual({});
    for (const [widths, words] of [
      [{ number: 10 }, /48/],
      [{ number: 1e9 }, /2000/],
      [Object.fromEntries(Array.from({ length: 61 }, (_, i) => [`c${i}`, 90])), /at most 60/],
    ] as const)
      expect((await failure(keepWidths(lab, wren, { table: 'cells', widths }))).message).toMatch(
        words,
      );
    expect((await failure(keepWidths(lab, null, { table: 'cells', widths: {} }))).code).toBe(
      'notSignedIn',
    );
  });

  it('a password for one sign-in is made, and nobody chooses it', async () => {
    const { once, person } = await addPerson(fresh.lab, fresh.admin, {
      email: 'ash@lab.example',
      name: 'Ash',
      role: 'lead',
    });
    expect(once).toMatch(/^([a-z2-9]{4}-){3}[a-z2-9]{4}$/);
    expect(new Set(Array.from({ length: 200 }, oncePassword)).size).toBe(200);
    const signedIn = await signIn(fresh.lab, { email: 'ash@lab.example', password: once });
    expect(signedIn.passwordIsOnce).toBe(true);
    expect(await personOfSession(fresh.lab, signedIn)).toMatchObject({ passwordIsOnce: true });
    expect(JSON.stringify(await listPeople(fresh.lab, fresh.admin, {}))).not.toContain('argon2');
    expect(person).not.toHaveProperty('passwordHash');
  });

  it('changing one’s password ends every other session at once, and the old one fits no more', async () => {
    const elsewhere = await come(PASSWORD);
    const here = await come(PASSWORD);
    const next = 'seven grey herons at the weir';
    const { sessionEpoch } = await changeOwnPassword(fresh.lab, here, { current: PASSWORD, next });
    expect(await personOfSession(fresh.lab, elsewhere)).toBeNull();
    expect(await personOfSession(fresh.lab, { id: here.id, sessionEpoch })).toMatchObject({
      name: 'Wren Hollow',
      passwordIsOnce: false,
    });
    expect((await failure(come(PASSWORD))).code).toBe('notSignedIn');
    expect(await come(next)).toMatchObject({ passwordIsOnce: false });
    await changeOwnPassword(fresh.lab, here, { current: next, next: PASSWORD });
  });

  it('refuses a wrong present password, the same again, and what is guessed first', async () => {
    const change = (current: string, next: string) =>
      failure(changeOwnPassword(fresh.lab, wren, { current, next }));
    expect(await change('not it at all', 'seven grey herons')).toMatchObject({
      code: 'invalid',
      details: { field: 'current' },
    });
    expect((await change(PASSWORD, PASSWORD)).message).toContain('another');
    expect((await change(PASSWORD, 'short')).message).toContain('at least 12');
    expect((await change(PASSWORD, 'Password12345!')).message).toContain('guessed first');
    expect((await change(PASSWORD, 'wren hollow 1')).message).toContain('your name');
    expect(await come(PASSWORD)).toMatchObject({ name: 'Wren Hollow' });
  });

  it('two changes at once: one counts, the other is told', async () => {
    const one = changeOwnPassword(fresh.lab, wren, {
      current: PASSWORD,
      next: 'first of the two changes',
    });
    const two = changeOwnPassword(fresh.lab, wren, {
      current: PASSWORD,
      next: 'second of the two changes',
    });
    const results = await Promise.allSettled([one, two]);
    expect(results.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const won = results[0]!.status === 'fulfilled' ? 'first' : 'second';
    await changeOwnPassword(fresh.lab, wren, {
      current: `${won} of the two changes`,
      next: PASSWORD,
    });
  });

  it('an admin resets and changes roles, which ends sessions; a name alone does not', async () => {
    const before = await come(PASSWORD);
    const change = { id: wren.id, role: 'technician', reason: 'married' } as const;
    await changePerson(fresh.lab, fresh.admin, { ...change, name: 'Wren Marsh' });
    expect(await personOfSession(fresh.lab, before)).toMatchObject({ name: 'Wren Marsh' });
    await changePerson(fresh.lab, fresh.admin, { ...change, name: 'Wren Marsh', role: 'lead' });
    expect(await personOfSession(fresh.lab, before)).toBeNull();
    const now = await come(PASSWORD);
    expect(now.role).toBe('lead');
    const { once } = await resetPassword(fresh.lab, fresh.admin, { id: wren.id });
    expect(await personOfSession(fresh.lab, now)).toBeNull();
    const again = await come(once);
    await changeOwnPassword(fresh.lab, again, { current: once, next: PASSWORD });
    const acts = await fresh.lab.store.auditEntries.find({ subjectId: String(wren.id) });
    expect(acts.map(({ act }) => act)).toEqual(
      expect.arrayContaining(['changed person', 'reset password', 'changed own password']),
    );
    expect(JSON.stringify(acts)).not.toContain(once);
  });

  it('the last admin stays one, nobody resets or demotes themselves here', async () => {
    const own = { id: fresh.admin.id, name: 'Admin', reason: 'to see' };
    expect(
      (await failure(changePerson(fresh.lab, fresh.admin, { ...own, role: 'lead' }))).message,
    ).toContain('your own role');
    expect(
      (await failure(resetPassword(fresh.lab, fresh.admin, { id: own.id }))).message,
    ).toContain('under your name');
    const second = await addPersonWithPassword(fresh.lab, fresh.admin, {
      email: 'second@lab.example',
      name: 'Second',
      role: 'admin',
      password: PASSWORD,
    });
    const other = await signIn(fresh.lab, { email: 'second@lab.example', password: PASSWORD });
    await setPersonActive(fresh.lab, fresh.admin, { id: second.id, active: false });
    expect(
      (await failure(changePerson(fresh.lab, other, { ...own, role: 'lead' }))).message,
    ).toContain('last admin');
    for (const act of [
      changePerson(fresh.lab, wren, { ...own, role: 'lead' }),
      resetPassword(fresh.lab, wren, { id: own.id }),
    ])
      expect((await failure(act)).code).toBe('notAllowed');
  });

  it('misses from elsewhere do not shut a person out from their own place', async () => {
    clock = new Date(clock.getTime() + 60 * 60_000);
    await come(PASSWORD, 'desk');
    for (let place = 0; place < 9; place++)
      for (let i = 0; i < 8; i++) await failure(come('guess', `far-${place}`));
    expect((await failure(come(PASSWORD, 'far-0'))).code).toBe('tooMany');
    // The account has had too many from strangers, so that a new place is shut, too.
    expect((await failure(come(PASSWORD, 'far-99'))).code).toBe('tooMany');
    expect(await come(PASSWORD, 'desk')).toMatchObject({ id: wren.id });
    clock = new Date(clock.getTime() + 16 * 60_000);
    expect(await come(PASSWORD, 'far-99')).toMatchObject({ id: wren.id });
  });

  it('one place that tries many accounts is shut for all it does not know', async () => {
    clock = new Date(clock.getTime() + 60 * 60_000);
    for (let i = 0; i < 40; i++)
      await failure(
        signIn(fresh.lab, { email: `nobody-${i}@lab.example`, password: 'guess' }, 'sprayer'),
      );
    expect((await failure(come(PASSWORD, 'sprayer'))).code).toBe('tooMany');
    expect(await come(PASSWORD, 'desk')).toMatchObject({ id: wren.id });
  });

  it('many attempts at once count as many', async () => {
    clock = new Date(clock.getTime() + 60 * 60_000);
    const tries = Array.from({ length: 30 }, () => failure(come('guess', 'quick')));
    const codes = (await Promise.all(tries)).map(({ code }) => code);
    expect(codes.filter((code) => code === 'notSignedIn').length).toBeLessThanOrEqual(8);
    expect(codes.filter((code) => code === 'tooMany').length).toBeGreaterThanOrEqual(22);
  });
});

describe('what a password may be', () => {
  const own = ['Wren Hollow', 'wren@fennick.example', 'Fennick Cells'];
  it.each([
    'seven grey herons',
    'Tally-at-dusk',
    'nine wet stones 4',
    'kT9#vv2!pLq0',
    'the quick brown fox',
    'wrens build at dusk',
  ])('“%s” will do', (password) => expect(passwordProblem(password, own)).toBeNull());

  it.each([
    ['elevenchars', 'at least 12'],
    ['password1234', 'guessed first'],
    ['P@ssw0rd1234', 'guessed first'],
    ['Password2026!!', 'guessed first'],
    ['123456789012', 'guessed first'],
    ['qwertyuiop[]', 'beside one another'],
    ['abcdefghijklmn', 'beside one another'],
    ['poiuytrewqpo', 'beside one another'],
    ['aaaaaaaaaaaaaaa', 'different'],
    ['abababababab', 'different'],
    ['herons7herons7', 'same twice'],
    ['wren hollow 12', 'your name'],
    ['fennick-cells-1', 'your name'],
    ['x'.repeat(201), 'at most 200'],
    ['dusktally123', 'guessed first'],
  ])('“%s” will not', (password, why) => expect(passwordProblem(password, own)).toContain(why));
});
