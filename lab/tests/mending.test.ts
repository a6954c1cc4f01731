import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  changeOrder,
  completeModel,
  keepPhoto,
  labelCell,
  photosOfLot,
  setPhotoAside,
} from '../src/arrivals';
import { historyOf } from '../src/shared';
import { addSupplier, changeSupplier, listSuppliers, mergeSuppliers } from '../src/suppliers';
import { lotCells } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

describe('mistakes are mended, each with a reason', () => {
  let fresh: FreshLab;
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  beforeAll(async () => {
    fresh = await freshLab(() => new Date('2026-04-01T08:00:00Z'));
    lot = await claimedLot(fresh, 3);
    cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
  });
  afterAll(() => fresh.close());

  it('a supplier’s name is mended; two that are one are taken together', async () => {
    const one = (await fresh.lab.store.suppliers.one({ id: lot.supplierId }))!;
    await changeSupplier(fresh.lab, fresh.admin, {
      id: one.id,
      version: one.version,
      name: 'Reedbank Cells Ltd',
      place: 'North Quay',
      reason: 'as on their paper',
    });
    const other = await addSupplier(fresh.lab, fresh.admin, { name: 'Reed Bank' });
    const merge = (id: number, version: number, into: number) =>
      mergeSuppliers(fresh.lab, fresh.admin, { id, version, into, reason: 'the same people' });
    await expect(merge(one.id, one.version, other.id)).rejects.toMatchObject({ code: 'conflict' });
    await expect(merge(other.id, 1, other.id)).rejects.toThrow(/another supplier/);
    expect(await merge(one.id, one.version + 1, other.id)).toEqual({ lots: 1 });
    expect((await fresh.lab.store.lots.one({ id: lot.id }))!.supplierId).toBe(other.id);
    expect((await listSuppliers(fresh.lab, fresh.admin, {})).map(({ id }) => id)).not.toContain(
      one.id,
    );
    await expect(merge(one.id, one.version + 2, other.id)).rejects.toThrow(/taken together/);
    const [entry] = await historyOf(fresh.lab, fresh.admin, {
      subjectType: 'supplier',
      subjectId: String(other.id),
    });
    expect(entry).toMatchObject({
      act: 'took another supplier in',
      reason: 'the same people',
      changes: [
        { name: 'took in', after: 'Reedbank Cells Ltd' },
        { name: 'lots', after: [lot.code] },
      ],
    });
  });

  it('a lot goes to no supplier that became another one; a name that is taken is refused on its field', async () => {
    const gone = (await fresh.lab.store.suppliers.find({ mergedInto: { not: null } }))[0]!;
    const row = (await fresh.lab.store.lots.one({ id: lot.id }))!;
    await expect(
      changeOrder(fresh.lab, fresh.admin, {
        lotId: lot.id,
        version: row.version,
        title: row.title,
        supplierId: gone.id,
        reason: 'typed on an old page',
      }),
    ).rejects.toMatchObject({ code: 'conflict', details: { field: 'supplierId' } });
    const other = await claimedLot(fresh, 1);
    const model = (await fresh.lab.store.cellModels.one({ id: other.modelId }))!;
    const taken = (await fresh.lab.store.cellModels.one({ id: lot.modelId }))!;
    await expect(
      completeModel(fresh.lab, fresh.admin, {
        id: model.id,
        version: model.version,
        sheet: { name: taken.name },
        reason: 'a slip',
      }),
    ).rejects.toMatchObject({ code: 'duplicate', details: { field: 'sheet.name' } });
  });

  it('a lot’s name and supplier are mended with a reason, and its history tells', async () => {
    const row = (await fresh.lab.store.lots.one({ id: lot.id }))!;
    await changeOrder(fresh.lab, fresh.admin, {
      lotId: lot.id,
      version: row.version,
      title: 'A better name',
      arrivedOn: row.arrivedOn,
      orderedQuantity: row.orderedQuantity,
      reason: 'misread at the door',
    });
    const [entry] = await historyOf(fresh.lab, fresh.admin, {
      subjectType: 'lot',
      subjectId: lot.code,
    });
    expect(entry).toMatchObject({ reason: 'misread at the door' });
    expect(entry!.changes).toEqual([{ name: 'title', before: row.title, after: 'A better name' }]);
  });

  it('a cell’s first mark needs no reason, another one does', async () => {
    const { id, version } = (await fresh.lab.store.cells.one({ id: cells[2]!.id }))!;
    await labelCell(fresh.lab, fresh.admin, { cellId: id, version, label: 'ZX-1' });
    const again = (reason: string | null) =>
      labelCell(fresh.lab, fresh.admin, {
        cellId: id,
        version: version + 1,
        label: 'ZX-7',
        reason,
      });
    await expect(again(null)).rejects.toMatchObject({ details: { field: 'reason' } });
    expect((await again('a smudged 7')).label).toBe('ZX-7');
  });

  it('a photograph is set aside and taken back; nothing of it is lost', async () => {
    const bytes = await sharp({
      create: { width: 40, height: 30, channels: 3, background: '#456' },
    })
      .jpeg()
      .toBuffer();
    const { id } = await keepPhoto(fresh.lab, fresh.admin, {
      lotId: lot.id,
      subjectType: 'lot',
      subjectId: lot.id,
      name: 'wrong box.jpg',
      bytes,
      clientKey: randomUUID(),
    });
    const aside = async () =>
      (await photosOfLot(fresh.lab, fresh.admin, { lotId: lot.id }))[0]!.aside;
    expect(await aside()).toBeNull();
    const mark = (isAside: boolean) =>
      setPhotoAside(fresh.lab, fresh.admin, {
        id: id!,
        aside: isAside,
        reason: 'not our box',
      });
    await mark(true);
    expect(await aside()).toMatchObject({ reason: 'not our box' });
    await mark(false);
    expect(await aside()).toBeNull();
  });
});
