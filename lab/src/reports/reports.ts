import { createHash } from 'node:crypto';
import { canonicalJson } from '@dusk-tally/core/units';
import type { ReportRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { reportInput } from '../inputs';
import { labDay } from '../lots';
import { found, isDuplicate, type Lab, LabError, procedure, question } from '../shared';
import { makeSnapshot } from './make-snapshot';
import { requirePrintable } from './printable';
import type { ReportSnapshot } from '../compute';

export type ReportView = Omit<ReportRow, 'snapshot' | 'pdf'>;

/**
 * A report is not given out over a doubt (handbook, chapter 3). A result that a person set aside
 * does not stand in the way where another one of the cell counts.
 */
async function requireNothingHeld(
  lab: Lab,
  cellIds: number[],
  transaction: Transaction,
): Promise<void> {
  const { standings, assessments } = lab.store.verdicts;
  const [stood, allHeld] = await Promise.all([
    standings.find({ cellId: cellIds }, { transaction, columns: ['cellId', 'detail'] }),
    assessments.find({ cellId: cellIds, state: 'held' }, { transaction }),
  ]);
  const heldOf = new Map(allHeld.map(({ cellId, detail }) => [cellId, detail.why[0]]));
  const held = stood.filter(
    ({ cellId, detail }) =>
      heldOf.has(cellId) || detail.holds.some(({ rule }) => rule !== 'byHand'),
  );
  if (held.length === 0) return;
  const cells = await lab.store.cells.find(
    { id: held.map(({ cellId }) => cellId) },
    { transaction, columns: ['id', 'number'], order: [['position', 'ASC']] },
  );
  const why = new Map(
    held.map(({ cellId, detail }) => [cellId, detail.holds[0]?.text ?? heldOf.get(cellId)]),
  );
  const named = cells.slice(0, 5).map(({ id, number }) => `${number} (${why.get(id)})`);
  const more = cells.length > named.length ? `, and ${cells.length - named.length} more` : '';
  throw new LabError(
    'conflict',
    `Held results are not reported: ${named.join('; ')}${more}. Leave these cells out, or have a lead look at what is held and lift it.`,
  );
}

/**
 * Freezes a snapshot under a new number while the lot is locked; the PDF is set from it afterwards,
 * with nobody waiting behind it.
 */
export const issueReport = procedure({
  role: 'lead',
  input: reportInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<ReportView> => {
    const { store } = lab;
    // First of all: what is held, judged and reported of the lot is one state of it.
    found(await store.lots.one({ id: input.lotId }, { transaction, forUpdate: true }), 'That lot');
    const count = await store.cells.count({ id: input.cellIds, lotId: input.lotId }, transaction);
    if (count !== new Set(input.cellIds).size)
      throw new LabError('notFound', 'Some of these cells are not of this lot.');
    await requireNothingHeld(lab, input.cellIds, transaction);
    const year = (await labDay(lab, transaction)).slice(0, 4);
    const sequence = await store.takeNumbers(`report ${year}`, 1, transaction);
    const number = `R-${year}-${String(sequence).padStart(4, '0')}`;
    const snapshot = await makeSnapshot(
      lab,
      { ...input, number, issuedBy: actor.name },
      transaction,
    );
    requirePrintable({
      Customer: snapshot.customer,
      Lot: snapshot.lot.title,
      Model: snapshot.model.name,
      'The lab': `${snapshot.lab.name} ${snapshot.lab.place}`,
      People: [snapshot.issuedBy, ...snapshot.testedBy].join(', '),
    });
    if (snapshot.items.every((item) => item.capacity === null && item.acResistance === null)) {
      throw new LabError(
        'invalid',
        'None of these cells has a figure to report yet. Take in a log or type a reading first.',
      );
    }
    const text = canonicalJson(snapshot);
    const sha256 = createHash('sha256').update(text).digest('hex');
    const row = await store.reports.insert(
      {
        number,
        lotId: input.lotId,
        customer: input.customer,
        snapshot: text,
        sha256,
        pdf: null,
        personId: actor.id,
        createdAt: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'issued report',
      subjectType: 'report',
      subjectId: number,
      after: { customer: input.customer, items: snapshot.items.length, sha256 },
    });
    const { snapshot: _snapshot, pdf: _pdf, ...view } = row;
    return view;
  },
  after: async (lab, { number }) => void (await pdfOf(lab, number)),
});

/** PDFs on their way in this process, by the number of their report. */
const rendering = new WeakMap<Lab['compute'], Map<string, Promise<Buffer>>>();

/**
 * The PDF of a report: as it is kept, or made from its frozen snapshot where that was never done or
 * failed. @throws LabError where there is no such report, or setting it takes too long.
 */
async function pdfOf(lab: Lab, number: string): Promise<Buffer> {
  const { reports, reportPdfs } = lab.store;
  const row = found(await reports.one({ number }), `Report ${number}`);
  const kept = row.pdf ?? (await reportPdfs.one({ reportId: row.id }))?.pdf;
  if (kept) return kept;
  const onTheirWay = rendering.get(lab.compute) ?? new Map<string, Promise<Buffer>>();
  rendering.set(lab.compute, onTheirWay);
  const known = onTheirWay.get(number);
  if (known) return known;
  const made = lab.compute
    .renderReport(JSON.parse(row.snapshot) as ReportSnapshot)
    .then(async (bytes) => {
      const pdf = Buffer.from(bytes);
      await lab.store
        .transaction((transaction) =>
          reportPdfs.insert({ reportId: row.id, pdf, at: lab.now() }, transaction),
        )
        .catch((error: unknown) => {
          // Another process was faster: one of the two is kept, and both are the same.
          if (!isDuplicate(error)) throw error;
        });
      return pdf;
    })
    .finally(() => onTheirWay.delete(number));
  onTheirWay.set(number, made);
  return made;
}

const VIEW_COLUMNS: (keyof ReportRow & string)[] = [
  'id',
  'number',
  'lotId',
  'customer',
  'sha256',
  'personId',
  'createdAt',
];

export const listReports = question({
  role: 'technician',
  input: z.object({ lotId: z.int().optional() }),
  run: async (lab, { lotId }): Promise<ReportView[]> =>
    lab.store.reports.find(lotId ? { lotId } : {}, {
      order: [['id', 'DESC']],
      columns: VIEW_COLUMNS,
    }),
});

/** A released report: its frozen snapshot, as stored. */
export const reportPage = question({
  role: 'technician',
  input: z.object({ number: z.string().max(20) }),
  run: async (lab, { number }) => {
    const row = found(await lab.store.reports.one({ number }), `Report ${number}`);
    const lot = found(await lab.store.lots.one({ id: row.lotId }), 'Its lot');
    return {
      number,
      sha256: row.sha256,
      lot: lot.code,
      snapshot: JSON.parse(row.snapshot) as ReportSnapshot,
    };
  },
});

export const reportPdf = question({
  role: 'technician',
  input: z.object({ number: z.string().max(20) }),
  run: (lab, { number }) => pdfOf(lab, number),
});
