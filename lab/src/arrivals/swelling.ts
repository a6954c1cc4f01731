import { judgeSwelling } from '@dusk-tally/core/arrivals';
import type { InspectionEntryRow, ReadingRow, Transaction } from '@dusk-tally/store';
import type { Actor, Lab } from '../shared';
import { loadClaim } from '../lots';
import { findingsOfEntries } from './refresh-arrivals';

const CODES = ['swollen', 'slightlySwollen'];

/**
 * Turns measured thicknesses into findings against the drawing; a later reading that says
 * otherwise takes an earlier one back. Prismatic cells with a drawing only.
 */
export async function judgeThicknesses(
  lab: Lab,
  actor: Actor,
  lotId: number,
  readings: readonly ReadingRow[],
  transaction: Transaction,
): Promise<void> {
  const measured = readings.filter((reading) => reading.kind === 'thickness');
  if (measured.length === 0) return;
  const { model } = await loadClaim(lab, lotId, transaction);
  const drawingMm = model.thicknessMm;
  if (model.format !== 'prism' || !drawingMm) return;
  const { inspections } = lab.store.arrivals;
  const entries = await inspections.find(
    { lotId, cellId: measured.map((reading) => reading.cellId) },
    { transaction, order: [['id', 'ASC']] },
  );
  const made: Omit<InspectionEntryRow, 'id'>[] = [];
  for (const { cellId, value } of measured) {
    const open = findingsOfEntries(entries.filter((entry) => entry.cellId === cellId)).filter(
      (finding) => finding.state === 'open' && CODES.includes(finding.code),
    );
    const judged = value === null ? null : judgeSwelling(value, drawingMm);
    const note =
      value === null
        ? 'thickness taken back'
        : `measured ${value} mm, ${judged!.pct.toFixed(1)} % over the drawing’s ${drawingMm} mm`;
    const base = { lotId, cellId, before: null, personId: actor.id, at: lab.now(), note };
    // Only what a measurement found is taken back by one; what somebody saw stands.
    for (const finding of open)
      if (finding.code !== judged?.finding && finding.entry.note?.startsWith('measured'))
        made.push({ ...base, act: 'withdrawn', code: null, findingId: finding.id });
    if (judged?.finding && !open.some((finding) => finding.code === judged.finding))
      made.push({ ...base, act: 'finding', code: judged.finding, findingId: null });
  }
  if (made.length > 0) await inspections.insertMany(made, transaction);
}
