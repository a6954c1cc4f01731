import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import {
  addModel,
  addTemplate,
  changeLotModel,
  changeOrder,
  completeModel,
  keepOffer,
  listModels,
  listProfiles,
  nameMaker,
  offersOfLot,
  previewModelChange,
  setProfile,
  tryTemplate,
  useTemplate as switchTemplate,
} from '../src/arrivals';
import { readCode } from '@dusk-tally/core/arrivals';
import { codeReaders } from '../src/arrivals/code-rules';
import { recordReadings } from '../src/evidence';
import { lotCells } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import { fresh, head, useClaimsLab } from '../testing/claims-lab';

useClaimsLab();

describe('what a claim means', () => {
  it('takes each item and condition from the claim, else the model, else the chemistry, and says which', async () => {
    const lot = await claimedLot(fresh, 1);
    const { model } = await head(lot.code);
    await completeModel(fresh.lab, fresh.admin, {
      reason: 'as the paper says',
      id: model.id,
      version: model.version,
      sheet: { massG: 1980, massTolerancePct: 3, maxDischargeA: 104, taperIt: 0.05 },
    });
    const { claim } = await head(lot.code);
    const item = (kind: string) => claim.items.find((candidate) => candidate.kind === kind);
    const condition = (name: string) =>
      item('capacity')!.conditions.find((candidate) => candidate.name === name);
    expect(item('capacity')).toMatchObject({ value: 104, from: 'claim' });
    expect(condition('rateIt')).toMatchObject({ value: 0.2, from: 'claim' });
    expect(condition('taperIt')).toMatchObject({ value: 0.05, from: 'model' });
    expect(condition('chargeV')).toMatchObject({ value: 3.65, from: 'chemistry' });
    expect(item('mass')).toMatchObject({ value: 1980, from: 'model' });
    expect(item('maxDischarge')).toMatchObject({ value: 104, from: 'model' });
    expect(item('size')).toMatchObject({ text: '130 mm × 36 mm × 195 mm', from: 'model' });
    expect(item('maxCharge')).toBeUndefined();
  });

  it('never guesses a torque, and does not overwrite a data sheet someone else completed', async () => {
    const lot = await claimedLot(fresh, 1);
    const { model } = await head(lot.code);
    expect(model.terminalTorqueNm).toBeNull();
    const complete = (terminalTorqueNm: number) =>
      completeModel(fresh.lab, fresh.admin, {
        reason: 'as the paper says',
        id: model.id,
        version: model.version,
        sheet: { terminalType: 'threadedHole', terminalTorqueNm },
      });
    await complete(4);
    expect((await failure(complete(9))).code).toBe('conflict');
    const row = (await listModels(fresh.lab, fresh.admin, {})).find(({ id }) => id === model.id);
    expect(row).toMatchObject({ terminalType: 'threadedHole', terminalTorqueNm: 4, ratedAh: null });
  });

  it('keeps what the order says, and offers as they were written', async () => {
    const lot = await claimedLot(fresh, 1);
    await changeOrder(fresh.lab, fresh.admin, {
      reason: 'as the paper says',
      lotId: lot.id,
      version: lot.version,
      title: 'Put right',
      orderedOn: '2026-01-02',
      arrivedOn: '2026-01-20',
      orderedQuantity: 2,
      price: 410,
      discount: 16.4,
      freight: 38.5,
    });
    expect((await head(lot.code)).lot).toMatchObject({
      title: 'Put right',
      orderedQuantity: 2,
      price: '410.00',
      discount: '16.40',
      freight: '38.50',
      duty: null,
    });
    expect(
      (
        await failure(
          changeOrder(fresh.lab, fresh.admin, {
            reason: 'as the paper says',
            lotId: lot.id,
            version: lot.version + 1,
            title: 'Put right',
            orderedOn: '2026-02-02',
            arrivedOn: '2026-01-20',
          }),
        )
      ).message,
    ).toMatch(/arrival on or after the order/);
    const text = 'LFP 104 Ah, brand new, 32 pcs';
    await keepOffer(fresh.lab, fresh.admin, { lotId: lot.id, text });
    const [offer] = await offersOfLot(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(offer!.text).toBe(text);
    expect(offer!.hints.find((hint) => hint.kind === 'capacity')?.value).toBe(104);
    await expect(
      fresh.lab.store.arrivals.offers.update({ text: 'other' }, { id: offer!.id }),
    ).rejects.toThrow(/append-only/);
  });
});

describe('chemistry profiles', () => {
  const house = {
    ceilingWhPerL: 470,
    ceilingWhPerKg: 215,
    nominalV: 3.2,
    chargeV: 3.65,
    cutoffV: 2.5,
    storageV: [3.25, 3.3] as [number, number],
    fullOcvV: [3.33, 3.45] as [number, number],
  };
  it('are changed by a lead with a reason, keep their history, and reach the claims that inherit', async () => {
    const lot = await claimedLot(fresh, 1);
    const before = (await head(lot.code)).claim.plausibility!;
    expect(before.possible).toBe(true);
    const set = (entryId: number | null, patch: object, reason = 'a tighter ceiling') =>
      setProfile(fresh.lab, fresh.admin, {
        chemistry: 'LFP',
        entryId,
        reason,
        profile: { ...house, ...patch },
      });
    expect((await failure(set(null, { cutoffV: 3.4 }))).message).toMatch(
      /Expected cut-off < nominal < charge/,
    );
    expect((await failure(set(null, { storageV: [3.3, 3.25] }))).message).toMatch(/lower voltage/);
    await set(null, { ceilingWhPerL: 300 });
    expect((await failure(set(null, { ceilingWhPerL: 310 }))).code).toBe('conflict');
    expect((await head(lot.code)).claim.plausibility).toMatchObject({ possible: false });
    const view = (await listProfiles(fresh.lab, fresh.admin, {})).find(
      (row) => row.profile.chemistry === 'LFP',
    )!;
    expect(view.history).toHaveLength(1);
    await set(view.entryId, {}, 'back to the house default');
    expect((await head(lot.code)).claim.plausibility).toEqual(before);
  });
});

describe('a wrong model put right', () => {
  it('shows first what it invalidates, and changes nothing when that is no longer so', async () => {
    const lot = await claimedLot(fresh, 3);
    const cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    const read = (values: number[]) =>
      recordReadings(fresh.lab, fresh.admin, {
        lotId: lot.id,
        readings: values.map((value, i) => ({
          cellId: cells[i]!.id,
          kind: 'openCircuitVoltage' as const,
          value,
          decimals: 3,
          clientKey: randomUUID(),
        })),
      });
    await read([3.3, 2.3]);
    const truth = await addModel(fresh.lab, fresh.admin, {
      name: 'In truth NMC',
      chemistry: 'NMC',
      format: 'prism',
      cutoffV: 2.8,
    });
    const preview = () =>
      previewModelChange(fresh.lab, fresh.admin, { lotId: lot.id, modelId: truth.id });
    const first = await preview();
    expect(first.consequences[0]).toMatch(
      /2 first voltages are judged by NMC instead of LFP: 1 cell goes elsewhere \(waits for a lead now\)/,
    );
    const change = (accepted: string[]) =>
      changeLotModel(fresh.lab, fresh.admin, {
        lotId: lot.id,
        version: lot.version,
        modelId: truth.id,
        accepted,
        reason: 'the printing says NMC',
      });
    await read([3.3, 2.3, 2.2]);
    expect((await failure(change(first.consequences))).code).toBe('conflict');
    expect((await head(lot.code)).model.chemistry).toBe('LFP');
    await change((await preview()).consequences);
    const after = await head(lot.code);
    expect(after.model.chemistry).toBe('NMC');
    expect(after.strokes.map((stroke) => stroke.sign)).toEqual([null, 'lead', 'lead']);
  });
});

describe('code rules', () => {
  it('are tried on samples before they are kept, and can be put away', async () => {
    const pattern = '{plant:1}{year:2}{week:2}-{serial:5}';
    const tried = await tryTemplate(fresh.lab, fresh.admin, {
      pattern,
      samples: 'S2611-30410\nS2655-1\n\nother',
    });
    expect(tried.map(({ reading }) => reading.ok)).toEqual([true, false, false]);
    expect(
      (
        await failure(
          Promise.resolve().then(() =>
            tryTemplate(fresh.lab, fresh.admin, { pattern: '{colour:2}', samples: 'x' }),
          ),
        )
      ).message,
    ).toMatch(/is no part/);
    const row = await addTemplate(fresh.lab, fresh.admin, { name: 'Brine', pattern });
    const decoded = async () =>
      readCode('s2611-30410', await codeReaders(fresh.lab), { arrivedOn: null });
    expect(await decoded()).toMatchObject({ ok: true, scheme: 'Brine', serial: '30410' });
    await switchTemplate(fresh.lab, fresh.admin, { id: row.id, version: 1, active: false });
    expect(await decoded()).toMatchObject({ ok: false });
    expect(
      (
        await failure(
          switchTemplate(fresh.lab, fresh.admin, { id: row.id, version: 1, active: true }),
        )
      ).code,
    ).toBe('conflict');
    await nameMaker(fresh.lab, fresh.admin, { code: '0fz', name: 'One' });
    await nameMaker(fresh.lab, fresh.admin, { code: '0FZ', name: 'Two' });
    expect((await fresh.lab.store.arrivals.makerCodes.find({})).map((maker) => maker.name)).toEqual(
      ['Two'],
    );
  });
});
