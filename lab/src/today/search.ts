import { normaliseCode } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { question } from '../shared';

export interface SearchHit {
  kind: 'cell' | 'lot' | 'report';
  title: string;
  hint: string;
  href: string;
}

const MOST_HITS = 8;

/** Finds cells by number or own mark, lots and reports; what begins with the text comes first. */
export const searchEverything = question({
  role: 'technician',
  input: z.object({ text: z.string().trim().max(80) }),
  run: async (lab, { text }): Promise<SearchHit[]> => {
    if (text === '') return [];
    const like = { like: `%${text.replace(/[\\%_]/g, '\\$&')}%` };
    const [cells, lots, reports] = await Promise.all([
      lab.store.cells.find(
        { anyOf: [{ number: like }, { label: like }] },
        {
          limit: MOST_HITS,
          order: [['id', 'ASC']],
        },
      ),
      lab.store.lots.find(
        { anyOf: [{ code: like }, { title: like }] },
        {
          limit: MOST_HITS,
          order: [['id', 'DESC']],
        },
      ),
      lab.store.reports.find(
        { anyOf: [{ number: like }, { customer: like }] },
        {
          limit: MOST_HITS,
          order: [['id', 'DESC']],
          columns: ['number', 'customer'],
        },
      ),
    ]);
    return [
      ...lots.map((lot): SearchHit => ({
        kind: 'lot',
        title: lot.code,
        hint: lot.title,
        href: `/lots/${lot.code}`,
      })),
      ...cells.map((cell): SearchHit => ({
        kind: 'cell',
        title: cell.number,
        hint: cell.label ?? '',
        href: `/cells/${cell.number}`,
      })),
      ...reports.map((report): SearchHit => ({
        kind: 'report',
        title: report.number,
        hint: report.customer,
        href: `/reports/${report.number}`,
      })),
    ];
  },
});

/** A cell that carries a scanned code, on its sleeve or as its number. */
export interface CellOfCode {
  number: string;
  /** Code of its lot. */
  lot: string;
}

/** Cells whose number or sleeve a scanned text is; more than one where a label was copied. */
export const cellsOfCode = question({
  role: 'technician',
  input: z.object({ code: z.string().max(200) }),
  run: async (lab, { code }): Promise<CellOfCode[]> => {
    const text = normaliseCode(code);
    if (text === '') return [];
    const cells = await lab.store.cells.find(
      { anyOf: [{ number: text }, { label: text }] },
      { limit: MOST_HITS, order: [['id', 'ASC']], columns: ['number', 'lotId'] },
    );
    const lots = await lab.store.lots.find({ id: cells.map(({ lotId }) => lotId) });
    const codeOf = new Map(lots.map((lot) => [lot.id, lot.code]));
    return cells.map(({ number, lotId }) => ({ number, lot: codeOf.get(lotId)! }));
  },
});
