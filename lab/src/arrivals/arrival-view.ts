import { type Gate, GATES } from '@dusk-tally/core/arrivals';
import type { CellArrivalRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, question } from '../shared';
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

/** Where receiving a lot stands: each step with what is open, and how many cells are at which gate. */
export async function arrivalOf(lab: Lab, lotId: number): Promise<ArrivalView> {
  const { arrivals, cells: cellTable, lots } = lab.store;
  const [lot, entries, rows, coded, packs, plans] = await Promise.all([
    lots.one({ id: lotId }),
    arrivals.newestReceiving(lotId),
    arrivals.cells.find(
      { lotId },
      { columns: ['cellId', 'gate', 'inspected', 'firstV', 'triage'] },
    ),
    cellTable.find({ lotId }, { columns: ['id', 'label'] }),
    arrivals.packs.find({ lotId }, { columns: ['id', 'openedAt'] }),
    arrivals.samplingPlans.count({ lotId }),
  ]);
  const value = (field: string) => entries.find((entry) => entry.field === field)?.value;
  const all = rows.length;
  const count = (pick: (row: (typeof rows)[number]) => boolean) => rows.filter(pick).length;
  const asPacks = lot?.takenAs === 'packs';
  const counted = value(asPacks ? 'packsCounted' : 'counted') as number | undefined;
  const weighed = ['grossG', 'netG'].some((field) => typeof value(field) === 'number');
  const withCode = coded.filter((cell) => cell.label).length;
  const inspected = count((row) => row.inspected);
  const read = count((row) => row.firstV !== null);
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
    sampling: { state: plans > 0 ? 'done' : 'open', words: plans > 0 ? 'drawn' : 'not drawn' },
  };
  const steps = ARRIVAL_STEPS.filter(
    (step) => step !== 'packs' || lot?.takenAs === 'packs' || packs.length > 0,
  ).map((step): StepView => {
    const { state, words } = told[step];
    const leftOut = value(`skip:${step}`) === true && state !== 'done';
    return {
      step,
      state: leftOut ? 'leftOut' : state,
      words: leftOut ? `left out; ${words}` : words,
    };
  });
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
  run: (lab, { lotId }) => arrivalOf(lab, lotId),
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
