import { type LookState, lookState, type RestOutcome } from '@dusk-tally/core/resting';
import type { RestRow } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../lots';
import { type Lab, question } from '../shared';

const DAY_MS = 86_400_000;

/** A cell on the shelf, as it is read. */
export interface ShelfLine {
  restId: number;
  cellId: number;
  cell: string;
  label: string | null;
  lot: { id: number; code: string; title: string };
  protocol: string;
  fullAt: Date;
  dueAt: Date;
  /** Better later, where time allows. */
  preferAt: Date | null;
  state: LookState;
  outcome: RestOutcome | null;
  endedAt: Date | null;
  detail: RestRow['detail'];
  /** Voltages the cell is expected between by its chemistry, V. */
  expectedV: [number, number];
}

/** So long after it ended a rest is still shown as done. */
const SHOWN_DONE_MS = 3 * DAY_MS;

/** A rest as the shelf shows it. */
export function shelfLine(
  rest: RestRow,
  cell: { number: string; label: string | null },
  lot: { id: number; code: string; title: string },
  expectedV: [number, number],
  now: Date,
): ShelfLine {
  const { id, cellId, protocol, look, fullAt, outcome, endedAt, detail } = rest;
  const { dueDays, preferDays, toleranceDays } = protocol.looks[look]!;
  const after = (days: number) => new Date(fullAt.getTime() + days * DAY_MS);
  return {
    restId: id,
    cellId,
    cell: cell.number,
    label: cell.label,
    lot,
    protocol: protocol.name,
    fullAt,
    dueAt: after(dueDays),
    preferAt: preferDays === null ? null : after(preferDays),
    state: lookState(
      { dueDays, toleranceDays: toleranceDays + Math.max(0, (preferDays ?? dueDays) - dueDays) },
      (now.getTime() - fullAt.getTime()) / DAY_MS,
    ),
    outcome,
    endedAt,
    detail,
    expectedV,
  };
}

/** Lines of some rests, with their cells and lots. */
export async function shelfLines(lab: Lab, rests: readonly RestRow[]): Promise<ShelfLine[]> {
  if (rests.length === 0) return [];
  const { store } = lab;
  const [cells, lots] = await Promise.all([
    store.cells.find(
      { id: [...new Set(rests.map(({ cellId }) => cellId))] },
      { columns: ['id', 'number', 'label'] },
    ),
    store.lots.find({ id: [...new Set(rests.map(({ lotId }) => lotId))] }),
  ]);
  const expected = new Map(
    await Promise.all(
      lots.map(async ({ id }) => {
        const { model, profile } = await loadClaim(lab, id);
        const volts: [number, number] = [
          model.cutoffV ?? profile.cutoffV,
          model.chargeV ?? profile.chargeV,
        ];
        return [id, volts] as const;
      }),
    ),
  );
  const cellOf = new Map(cells.map((cell) => [cell.id, cell]));
  const lotOf = new Map(lots.map((lot) => [lot.id, lot]));
  return rests.map((rest) => {
    const lot = lotOf.get(rest.lotId)!;
    const { id, code, title } = lot;
    return shelfLine(
      rest,
      cellOf.get(rest.cellId)!,
      { id, code, title },
      expected.get(lot.id)!,
      lab.now(),
    );
  });
}

/** The rest shelf: what stands, by the day it is due, and what was over in the last days. */
export const restShelf = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<ShelfLine[]> => {
    const since = new Date(lab.now().getTime() - SHOWN_DONE_MS);
    const { rests } = lab.store.resting;
    const [open, done] = await Promise.all([
      rests.find({ endedAt: null }),
      rests.find({ takenOff: false, endedAt: { atLeast: since } }),
    ]);
    const lines = await shelfLines(lab, [...open, ...done]);
    return lines.sort(
      (a, b) =>
        a.dueAt.getTime() - b.dueAt.getTime() ||
        a.cell.localeCompare(b.cell, 'en', { numeric: true }),
    );
  },
});

/** Rests of one cell, the newest first. */
export const restsOfCell = question({
  role: 'technician',
  input: z.object({ cellId: z.int() }),
  run: async (lab, { cellId }): Promise<ShelfLine[]> =>
    shelfLines(
      lab,
      await lab.store.resting.rests.find({ cellId, takenOff: false }, { order: [['id', 'DESC']] }),
    ),
});
