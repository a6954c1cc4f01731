import { judgeSwelling } from '@dusk-tally/core/arrivals';
import type { InspectionEntryRow, ReadingRow, Transaction } from '@dusk-tally/store';
import type { Derivation, Touched } from '../derived';
import { loadClaim } from '../lots';
import type { Change, Lab } from '../shared';
import { findingsOfEntries } from './refresh-arrivals';

const CODES = ['swollen', 'slightlySwollen'];
type NewEntry = Omit<InspectionEntryRow, 'id'>;

/** Of each cell the thickness read last; one that was taken back has no value. */
async function newestThicknesses(
  lab: Lab,
  { lotId, cellIds }: Touched,
  transaction: Transaction,
): Promise<ReadingRow[]> {
  const rows = await lab.store.readings.find(
    { lotId, kind: 'thickness', ...(cellIds && { cellId: [...cellIds] }) },
    { transaction, order: [['id', 'ASC']] },
  );
  return [...new Map(rows.map((row) => [row.cellId, row])).values()];
}

/** Found by a measurement; entries of before the reading was kept with them say it in words. */
const isMeasured = ({ readingId, note }: InspectionEntryRow): boolean =>
  typeof readingId === 'number' || (note?.startsWith('measured') ?? false);

/** What a thickness finds or takes back; nothing where it was judged before. */
function entriesOf(
  { lotId, cellId, value, personId, id }: ReadingRow,
  entries: readonly InspectionEntryRow[],
  drawingMm: number,
  at: Date,
): NewEntry[] {
  const judged = value === null ? null : judgeSwelling(value, drawingMm);
  const note =
    value === null
      ? 'thickness taken back'
      : `measured ${value} mm, ${judged!.pct.toFixed(1)} % over the drawing’s ${drawingMm} mm`;
  const base = { lotId, cellId, before: null, personId, at, note, readingId: id };
  const open = findingsOfEntries(entries).filter(
    (finding) => finding.state === 'open' && CODES.includes(finding.code),
  );
  // Only what a measurement found is taken back by one; what somebody saw stands.
  const withdrawn = open
    .filter((finding) => finding.code !== judged?.finding && isMeasured(finding.entry))
    .map((finding): NewEntry => ({ ...base, act: 'withdrawn', code: null, findingId: finding.id }));
  // What a person took back or made good since is not found anew from the same reading.
  const isKnown =
    !judged?.finding ||
    open.some((finding) => finding.code === judged.finding) ||
    entries.some(
      (entry) =>
        (typeof entry.readingId === 'number' ? entry.readingId === id : entry.note === note) &&
        entry.code === judged.finding,
    );
  return isKnown
    ? withdrawn
    : [...withdrawn, { ...base, act: 'finding', code: judged.finding, findingId: null }];
}

/**
 * Measured thicknesses as findings against the drawing; a later reading that says otherwise takes an
 * earlier one back. Prismatic cells with a drawing only (handbook, chapter 1).
 */
export const swellingDerivation: Derivation = {
  name: 'swelling',
  reads: ['readings', 'cellModel'],
  makes: ['inspection'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const where of touched) {
      const thicknesses = await newestThicknesses(lab, where, transaction);
      if (thicknesses.length === 0) continue;
      const { model } = await loadClaim(lab, where.lotId, transaction);
      const drawingMm = model.thicknessMm;
      if (model.format !== 'prism' || !drawingMm) continue;
      const { inspections } = lab.store.arrivals;
      const entries = await inspections.find(
        { lotId: where.lotId, cellId: thicknesses.map(({ cellId }) => cellId) },
        { transaction, order: [['id', 'ASC']] },
      );
      const fresh = thicknesses.flatMap((reading) =>
        entriesOf(
          reading,
          entries.filter(({ cellId }) => cellId === reading.cellId),
          drawingMm,
          lab.now(),
        ),
      );
      if (fresh.length === 0) continue;
      await inspections.insertMany(fresh, transaction);
      made.push({
        what: 'inspection',
        lotId: where.lotId,
        cellIds: [...new Set(fresh.map(({ cellId }) => cellId))],
      });
    }
    return made;
  },
};
