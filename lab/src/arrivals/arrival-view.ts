import { type Gate, GATES } from '@dusk-tally/core/arrivals';
import type {
  CellArrivalRow,
  CellStateCount,
  LotRow,
  PackRow,
  ReceivingEntryRow,
} from '@dusk-tally/store';
import { z } from 'zod';
import { byLot, found, type Lab, question } from '../shared';
import { ARRIVAL_STEPS, type ArrivalStep } from './receiving';

export interface StepView {
  step: ArrivalStep;
  state: 'open' | 'begun' | 'done' | 'leftOut';
  /** What is still open, or what was done, in a few words. */
  words: string;
}

export interface ArrivalView {
  steps: StepView[];
  gates: { gate: Gate; count: number }[];
  cells: number;
}

const of = (done: number, all: number, what: string): string => `${done} of ${all} ${what}`;

function stateOf(done: number, all: number): StepView['state'] {
  if (done === 0) return 'open';
  return done >= all ? 'done' : 'begun';
}

type Counted = readonly CellStateCount[];

/** What is known of the arrival of one lot. */
interface Known {
  lot: Pick<LotRow, 'takenAs'>;
  entries: readonly ReceivingEntryRow[];
  states: Counted;
  withCode: number;
  packs: readonly Pick<PackRow, 'openedAt'>[];
  isDrawn: boolean;
}

/** Where receiving some lots stands, asked of all at once: by lot. */
export async function arrivalsOf(
  lab: Lab,
  lots: readonly Pick<LotRow, 'id' | 'takenAs'>[],
): Promise<Map<number, ArrivalView>> {
  const { arrivals } = lab.store;
  const lotId = lots.map(({ id }) => id);
  const [entries, states, codes, packs, plans] = await Promise.all([
    arrivals.newestReceiving(lotId),
    arrivals.cellStates(lotId),
    arrivals.codeCounts(lotId),
    arrivals.packs.find({ lotId }, { columns: ['lotId', 'openedAt'] }),
    arrivals.samplingPlans.find({ lotId }, { columns: ['lotId'] }),
  ]);
  const [entriesOf, statesOf, packsOf] = [byLot(entries), byLot(states), byLot(packs)];
  const coded = new Map(codes.map((row) => [row.lotId, row.count]));
  const drawn = new Set(plans.map((row) => row.lotId));
  return new Map(
    lots.map((lot) => [
      lot.id,
      viewOf({
        lot,
        entries: entriesOf.get(lot.id) ?? [],
        states: statesOf.get(lot.id) ?? [],
        withCode: coded.get(lot.id) ?? 0,
        packs: packsOf.get(lot.id) ?? [],
        isDrawn: drawn.has(lot.id),
      }),
    ]),
  );
}

/** Where receiving a lot stands: each step with what is open, and how many cells are at which gate. */
function viewOf({ lot, entries, states, withCode, packs, isDrawn }: Known): ArrivalView {
  const value = (field: string) => entries.find((entry) => entry.field === field)?.value;
  const count = (pick: (row: Counted[number]) => boolean) =>
    states.filter(pick).reduce((total, row) => total + row.count, 0);
  const all = count(() => true);
  const asPacks = lot.takenAs === 'packs';
  const counted = value(asPacks ? 'packsCounted' : 'counted') as number | undefined;
  const weighed = ['grossG', 'netG'].some((field) => typeof value(field) === 'number');
  const inspected = count((row) => row.inspected);
  const read = count((row) => row.isRead);
  const waiting = count((row) => row.triage === 'waitsForLead' || row.triage === 'recovering');
  const opened = packs.filter((pack) => pack.openedAt).length;
  const told: Record<ArrivalStep, Omit<StepView, 'step'>> = {
    box: {
      state: counted === undefined ? (weighed ? 'begun' : 'open') : weighed ? 'done' : 'begun',
      words: [
        counted === undefined ? 'not counted' : `${counted} ${asPacks ? 'packs ' : ''}counted`,
        weighed ? 'weighed' : 'not weighed',
      ].join(', '),
    },
    packs: {
      state: stateOf(opened, packs.length),
      words: packs.length === 0 ? 'none entered' : of(opened, packs.length, 'broken down'),
    },
    codes: { state: stateOf(withCode, all), words: of(withCode, all, 'with a code') },
    inspection: { state: stateOf(inspected, all), words: of(inspected, all, 'inspected') },
    readings: { state: stateOf(read, all), words: of(read, all, 'with a first voltage') },
    triage: {
      state: read === 0 ? 'open' : waiting > 0 || read < all ? 'begun' : 'done',
      words:
        read === 0
          ? 'needs first voltages'
          : waiting > 0
            ? `${waiting} to decide`
            : read < all
              ? `nothing to decide, ${all - read} not read`
              : 'nothing to decide',
    },
    sampling: { state: isDrawn ? 'done' : 'open', words: isDrawn ? 'drawn' : 'not drawn' },
  };
  const steps = ARRIVAL_STEPS.filter((step) => step !== 'packs' || asPacks || packs.length > 0).map(
    (step): StepView => {
      const { state, words } = told[step];
      const leftOut = value(`skip:${step}`) === true && state !== 'done';
      return {
        step,
        state: leftOut ? 'leftOut' : state,
        words: leftOut ? `left out; ${words}` : words,
      };
    },
  );
  return {
    steps,
    gates: GATES.map((gate) => ({ gate, count: count((row) => row.gate === gate) })).filter(
      (row) => row.count > 0,
    ),
    cells: all,
  };
}

export const lotArrival = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }) => {
    const lot = found(await lab.store.lots.one({ id: lotId }), 'That lot');
    return (await arrivalsOf(lab, [lot])).get(lotId)!;
  },
});

/** A cell as the boards of receiving show it. */
export interface ArrivalCell {
  id: number;
  number: string;
  code: string | null;
  gate: Gate;
  inspected: boolean;
  worst: CellArrivalRow['worst'];
  findings: string[];
}

export const arrivalCells = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<ArrivalCell[]> => {
    const { store } = lab;
    const [cells, rows] = await Promise.all([
      store.cells.find(
        { lotId },
        { order: [['position', 'ASC']], columns: ['id', 'number', 'label'] },
      ),
      store.arrivals.cells.find(
        { lotId },
        { columns: ['cellId', 'gate', 'inspected', 'worst', 'findings'] },
      ),
    ]);
    const byCell = new Map(rows.map((row) => [row.cellId, row]));
    return cells.map(({ id, number, label }) => {
      const row = byCell.get(id);
      return {
        id,
        number,
        code: label,
        gate: row?.gate ?? 'open',
        inspected: row?.inspected ?? false,
        worst: row?.worst ?? null,
        findings: row ? (JSON.parse(row.findings) as string[]) : [],
      };
    });
  },
});
