import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recordReadings } from '../src/evidence';
import { changeSettings, labSettings, settingsHistory } from '../src/people';
import { takeIn } from '../src/suppliers';
import { failure } from '../testing/failure';
import { type FreshLab, freshLab } from '../testing/fresh-lab';
import { randomUUID } from 'node:crypto';

describe('settings of the lab', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());

  const now = async () => {
    const {
      id: _id,
      holdLimits: _limits,
      ...settings
    } = await labSettings(fresh.lab, fresh.admin, {});
    return { ...settings, place: settings.place, reason: 'moved house' };
  };
  const change = async (more: object) =>
    changeSettings(fresh.lab, fresh.admin, { ...(await now()), ...more });

  it('keeps what was changed, by whom and why', async () => {
    await change({ labName: 'Fennick Cells', place: 'Quay 4' });
    expect(await labSettings(fresh.lab, fresh.admin, {})).toMatchObject({
      labName: 'Fennick Cells',
      place: 'Quay 4',
    });
    const { changes, lots } = await settingsHistory(fresh.lab, fresh.admin, {});
    const [last] = changes;
    expect(lots).toBe(0);
    expect(last).toMatchObject({ person: fresh.admin.name, reason: 'moved house' });
    expect(last!.changes.map(({ name }) => name)).toEqual(['labName', 'place']);
    expect(last!.changes[0]).toMatchObject({ after: 'Fennick Cells' });
  });

  it.each([
    ['a currency that is none', { currency: 'XYZW' }, /Currency: Expected the three letters/],
    ['a zone that is none', { timeZone: 'Mars/Olympus' }, /zone/],
    ['a guard factor of 3', { guardFactor: 3 }, /Guard factor: Expected at most 2/],
    ['a prefix with digits', { cellPrefix: 'B2' }, /one to four letters/],
    ['a room without its warm end', { roomLowC: 18 }, /both ends/],
    [
      'a room that is colder at its warm end',
      { roomLowC: 24, roomHighC: 18 },
      /more than the coldest/,
    ],
    ['a room of a kelvin scale', { roomLowC: 291, roomHighC: 299 }, /at most 60/],
    ['no reason', { labName: 'Other', reason: ' ' }, /Reason: Say why/],
    ['nothing different', {}, /Nothing is different/],
  ])('refuses %s', async (_what, more, message) => {
    const before = await now();
    expect((await failure(change(more))).message).toMatch(message);
    expect(await now()).toEqual(before);
  });

  it('a change somebody else made meanwhile is not overwritten', async () => {
    const mine = await now();
    await change({ place: 'Quay 5' });
    expect(
      await failure(changeSettings(fresh.lab, fresh.admin, { ...mine, place: 'Quay 6' })),
    ).toMatchObject({ code: 'conflict' });
    expect((await now()).place).toBe('Quay 5');
  });

  it('new lots take the prefix and the currency, earlier ones keep theirs', async () => {
    const take = (title: string) =>
      takeIn(fresh.lab, fresh.admin, {
        clientKey: randomUUID(),
        title,
        supplierName: 'Marl Cells',
        model: { name: `Reed ${title}`, chemistry: 'LFP', format: 'prism' },
        quantity: 1,
        claim: [{ kind: 'capacity', value: 104 }],
      } as never);
    const first = await take('before');
    await change({ cellPrefix: 'fc', currency: 'chf' });
    const second = await take('after');
    const lotOf = async ({ code }: { code: string }) => (await fresh.lab.store.lots.one({ code }))!;
    expect((await lotOf(first)).currency).not.toBe('CHF');
    expect((await lotOf(second)).currency).toBe('CHF');
    const cells = await fresh.lab.store.cells.find({}, { order: [['id', 'ASC']] });
    expect(cells.map(({ number }) => number.replace(/\d+$/, ''))).toEqual(['B-', 'FC-']);
  });

  it('another guard factor judges every lot anew, and back again', async () => {
    const { code } = await takeIn(fresh.lab, fresh.admin, {
      clientKey: randomUUID(),
      title: 'Close to it',
      supplierName: 'Marl Cells',
      model: { name: 'Reed close', chemistry: 'LFP', format: 'prism' },
      quantity: 1,
      claim: [{ kind: 'capacity', value: 104 }],
    } as never);
    const lot = (await fresh.lab.store.lots.one({ code }))!;
    const cell = (await fresh.lab.store.cells.one({ lotId: lot.id }))!;
    const reading = { cellId: cell.id, kind: 'capacity' as const, value: 104.4, decimals: 1 };
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      readings: [{ ...reading, clientKey: randomUUID() }],
    } as never);
    const state = async () =>
      (await fresh.lab.store.verdicts.assessments.one({ cellId: cell.id, item: 'capacity' }))!
        .state;
    expect(await state()).toBe('tooClose');
    await change({ guardFactor: 0 });
    expect(await state()).toBe('met');
    await change({ guardFactor: 1 });
    expect(await state()).toBe('tooClose');
    // Three percent above, at a temperature nobody recorded: the lab’s own room decides.
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      readings: [{ ...reading, value: 107.2, clientKey: randomUUID() }],
    } as never);
    expect(await state()).toBe('tooClose');
    await change({ roomLowC: 23.5, roomHighC: 26 });
    expect(await state()).toBe('met');
    const { corrections } = (await fresh.lab.store.verdicts.assessments.one({
      cellId: cell.id,
      item: 'capacity',
    }))!.detail;
    expect(corrections.map(({ text }) => text).join()).toContain('kept at 23.5 to 26 °C');
    await change({ roomLowC: null, roomHighC: null });
    expect(await state()).toBe('tooClose');
  });

  it('are an admin’s', async () => {
    const lead = { ...fresh.admin, role: 'lead' as const };
    for (const act of [
      changeSettings(fresh.lab, lead, { ...(await now()), labName: 'X' }),
      settingsHistory(fresh.lab, lead, {}),
    ])
      expect((await failure(act)).code).toBe('notAllowed');
  });
});
