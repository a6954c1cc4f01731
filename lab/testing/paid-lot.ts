import { changeOrder } from '../src/arrivals';
import { importLog } from '../src/evidence';
import { lotCells } from '../src/verdicts';
import { claimedLot, type FreshLab } from './fresh-lab';
import { logOf } from './rest-lots';

/** A lot of four cells that cost 100.10, ten days under way, two of them tested. */
export async function paidLot(fresh: FreshLab) {
  const { lab, admin } = fresh;
  const lot = await claimedLot(fresh, 4);
  await changeOrder(lab, admin, {
    lotId: lot.id,
    version: lot.version,
    title: 'Paid for',
    orderedOn: '2026-01-02',
    arrivedOn: '2026-01-12',
    orderedQuantity: 4,
    price: 90.05,
    discount: null,
    freight: 10.05,
    duty: null,
    fees: null,
    reason: 'from the invoice',
  });
  const cells = await lotCells(lab, admin, { lotId: lot.id });
  for (const [i, cell] of cells.slice(0, 2).entries())
    await importLog(lab, admin, {
      lotId: lot.id,
      cellId: cell.id,
      fileName: `paid-${lot.id}-${i}.csv`,
      bytes: logOf(7000 + 10 * lot.id + i),
    });
  return { lot, cells };
}
