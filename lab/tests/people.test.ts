import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addLot, addModel, labelCell } from '../src/arrivals';
import { addInstrument, importLog, recordReadings } from '../src/evidence';
import {
  addPersonWithPassword,
  listPeople,
  makeFirstAdmin,
  personOfSession,
  setPersonActive,
  signIn,
} from '../src/people';
import { issueReport } from '../src/reports';
import type { Actor } from '../src/shared';
import { addSupplier } from '../src/suppliers';
import { lotCells, lotHead } from '../src/verdicts';
import { searchEverything } from '../src/today';
import { claimedLot, type FreshLab, freshLab, PASSWORD } from '../testing/fresh-lab';
import { failure } from '../testing/failure';

describe('people', () => {
  let fresh: FreshLab;
  let clock = new Date('2026-05-04T08:00:00Z');
  beforeAll(async () => {
    fresh = await freshLab(() => clock);
  });
  afterAll(() => fresh.close());

  it('the first admin is made once', async () => {
    const again = await makeFirstAdmin(fresh.lab, {
      email: 'other@lab.example',
      name: 'X',
      role: 'admin',
      password: PASSWORD,
    });
    expect(again).toBe(false);
  });

  it('adds people, refuses doubles and weak passwords', async () => {
    const person = {
      email: 'Tess@Lab.example',
      name: 'Tess',
      role: 'technician' as const,
      password: PASSWORD,
    };
    await addPersonWithPassword(fresh.lab, fresh.admin, person);
    expect((await failure(addPersonWithPassword(fresh.lab, fresh.admin, person))).code).toBe(
      'duplicate',
    );
    expect(
      (
        await failure(
          addPersonWithPassword(fresh.lab, fresh.admin, {
            ...person,
            email: 'b@lab.example',
            password: 'short',
          }),
        )
      ).message,
    ).toMatch(/at least 12/);
    const people = await listPeople(fresh.lab, fresh.admin, {});
    expect(people.map((row) => row.email)).toContain('tess@lab.example');
    expect(JSON.stringify(people)).not.toContain('argon2');
  });

  it('stores argon2id and nothing else', async () => {
    const row = await fresh.lab.store.people.one({ email: 'tess@lab.example' });
    expect(row!.passwordHash).toMatch(/^\$argon2id\$/);
  });

  it('closes the door after eight misses, and opens it after a quarter of an hour', async () => {
    for (let i = 0; i < 8; i++)
      expect(
        (await failure(signIn(fresh.lab, { email: 'tess@lab.example', password: 'no' }))).code,
      ).toBe('notSignedIn');
    expect(
      (await failure(signIn(fresh.lab, { email: 'tess@lab.example', password: PASSWORD }))).code,
    ).toBe('tooMany');
    clock = new Date(clock.getTime() + 16 * 60_000);
    expect(
      (await signIn(fresh.lab, { email: ' TESS@lab.example ', password: PASSWORD })).role,
    ).toBe('technician');
  });

  it('a session ends when the person is shut out', async () => {
    const session = await signIn(fresh.lab, { email: 'tess@lab.example', password: PASSWORD });
    expect(await personOfSession(fresh.lab, session)).toMatchObject({ name: 'Tess' });
    await setPersonActive(fresh.lab, fresh.admin, { id: session.id, active: false });
    expect(await personOfSession(fresh.lab, session)).toBeNull();
    expect(
      (await failure(signIn(fresh.lab, { email: 'tess@lab.example', password: PASSWORD }))).code,
    ).toBe('notSignedIn');
    expect(
      (
        await failure(
          setPersonActive(fresh.lab, fresh.admin, { id: fresh.admin.id, active: false }),
        )
      ).message,
    ).toMatch(/yourself/);
  });

  it('every act checks the role', async () => {
    const technician: Actor = { id: fresh.admin.id, name: 'T', role: 'technician' };
    const lead: Actor = { ...technician, role: 'lead' };
    const { lab } = fresh;
    const refused = await Promise.all([
      failure(addSupplier(lab, technician, { name: 'A' })),
      failure(addModel(lab, technician, {} as never)),
      failure(addLot(lab, technician, {} as never)),
      failure(addInstrument(lab, technician, {} as never)),
      failure(issueReport(lab, technician, {} as never)),
      failure(addPersonWithPassword(lab, lead, {} as never)),
    ]);
    expect(refused.map((error) => error.code)).toEqual(Array(6).fill('notAllowed'));
    const nobody = await Promise.all([
      failure(importLog(lab, null, {} as never)),
      failure(recordReadings(lab, null, {} as never)),
      failure(lotCells(lab, null, { lotId: 1 })),
    ]);
    expect(nobody.map((error) => error.code)).toEqual(Array(3).fill('notSignedIn'));
  });

  it('bad input is named by field', async () => {
    const lot = await claimedLot(fresh, 2);
    const base = { title: 'x', supplierId: lot.supplierId, modelId: lot.modelId, quantity: 1 };
    expect(await failure(addLot(fresh.lab, fresh.admin, { ...base, quantity: -1 }))).toMatchObject({
      code: 'invalid',
      details: { field: 'quantity' },
    });
    expect(
      (
        await failure(
          addLot(fresh.lab, fresh.admin, {
            ...base,
            orderedOn: '2026-05-02',
            arrivedOn: '2026-05-01',
          }),
        )
      ).message,
    ).toMatch(/on or after the order/);
    expect((await failure(addLot(fresh.lab, fresh.admin, { ...base, supplierId: 999 }))).code).toBe(
      'notFound',
    );
    expect(
      (
        await failure(
          addLot(fresh.lab, fresh.admin, { ...base, claim: [{ kind: 'capacity', value: -1 }] }),
        )
      ).message,
    ).toMatch(/above 0/);
    expect(
      (
        await failure(
          addLot(fresh.lab, fresh.admin, {
            ...base,
            claim: [
              { kind: 'mass', value: 5 },
              { kind: 'mass', value: 6 },
            ],
          }),
        )
      ).message,
    ).toMatch(/each kind of item once/);
  });

  it('two leads at once get different numbers', async () => {
    const lot = await claimedLot(fresh, 3);
    const base = {
      title: 'side by side',
      supplierId: lot.supplierId,
      modelId: lot.modelId,
      quantity: 25,
    };
    const lots = await Promise.all(
      Array.from({ length: 6 }, () => addLot(fresh.lab, fresh.admin, base)),
    );
    expect(new Set(lots.map((row) => row.code)).size).toBe(6);
    const cells = await fresh.lab.store.cells.find({});
    expect(new Set(cells.map((cell) => cell.number)).size).toBe(cells.length);
  });

  it('marks, search and a lot of ten thousand', async () => {
    const lot = await claimedLot(fresh, 10_000);
    const cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(cells).toHaveLength(10_000);
    const cell = await fresh.lab.store.cells.one({ id: cells[4999]!.id });
    await labelCell(fresh.lab, fresh.admin, { cellId: cell!.id, version: 1, label: 'ZX-17%' });
    expect(
      (
        await failure(
          labelCell(fresh.lab, fresh.admin, { cellId: cell!.id, version: 1, label: 'late' }),
        )
      ).code,
    ).toBe('conflict');
    expect(await searchEverything(fresh.lab, fresh.admin, { text: '17%' })).toMatchObject([
      { kind: 'cell', title: cell!.number },
    ]);
    expect((await lotHead(fresh.lab, fresh.admin, { code: lot.code })).strokes).toHaveLength(
      10_000,
    );
  });
});
