/** What a finding decides (handbook, chapter 1, "Inspection"), worst first. */
export const SEVERITIES = ['stop', 'serious', 'note'] as const;
/** How bad a finding is, from what is only noted to what puts a cell in quarantine. */
export type Severity = (typeof SEVERITIES)[number];

/** Shape of a cell's body; decides which findings can occur. */
export type CellFormat = 'cylinder' | 'prism' | 'pouch';

/** One thing an inspection can find, with its severity (handbook, chapter 1). */
export interface FindingKind {
  code: string;
  severity: Severity;
  words: string;
  /** Formats it can occur in; absent means all. */
  formats?: readonly CellFormat[];
  /** What puts it right, for serious ones. */
  madeGoodBy?: string;
  /** Found by the bench and never taken back. */
  forGood?: true;
}

/** All findings the chapter names, in the order they are offered. */
export const FINDING_KINDS = [
  { code: 'leaking', severity: 'stop', words: 'leaking or wet' },
  { code: 'smell', severity: 'stop', words: 'sweet solvent smell' },
  { code: 'hot', severity: 'stop', words: 'hot to the touch' },
  { code: 'punctured', severity: 'stop', words: 'punctured' },
  {
    code: 'swollen',
    severity: 'stop',
    words: 'swollen beyond the limit',
    formats: ['prism', 'pouch'],
  },
  { code: 'burnt', severity: 'stop', words: 'burnt' },
  { code: 'heater', severity: 'stop', words: 'heats on charge', forGood: true },
  {
    code: 'sleeve',
    severity: 'serious',
    words: 'sleeve torn or missing at the positive end',
    formats: ['cylinder'],
    madeGoodBy: 're-sleeved, ring fitted',
  },
  {
    code: 'dented',
    severity: 'serious',
    words: 'dented can edge',
    formats: ['cylinder', 'prism'],
    madeGoodBy: 'judged by a lead, and why',
  },
  {
    code: 'vent',
    severity: 'serious',
    words: 'cracked vent or terminal seal',
    madeGoodBy: 'judged by a lead, and why',
  },
  {
    code: 'thread',
    severity: 'serious',
    words: 'damaged or repaired terminal thread',
    formats: ['prism'],
    madeGoodBy: 'thread checked, torque as the data sheet says',
  },
  {
    code: 'gas',
    severity: 'serious',
    words: 'gas pillow',
    formats: ['pouch'],
    madeGoodBy: 'judged by a lead, and why',
  },
  {
    code: 'corrosion',
    severity: 'serious',
    words: 'corrosion',
    madeGoodBy: 'cleaned, contact bright',
  },
  {
    code: 'weld',
    severity: 'serious',
    words: 'weld remains that can short',
    madeGoodBy: 'burr removed',
  },
  { code: 'slightlySwollen', severity: 'note', words: 'slightly swollen', formats: ['prism'] },
  { code: 'scratches', severity: 'note', words: 'scratches' },
  { code: 'adhesive', severity: 'note', words: 'adhesive' },
  { code: 'label', severity: 'note', words: 'scuffed label' },
  { code: 'codeUnreadable', severity: 'note', words: 'code partly unreadable' },
  {
    code: 'otherSleeve',
    severity: 'note',
    words: 'sleeve not the maker’s own',
    formats: ['cylinder'],
  },
  { code: 'ownersMarks', severity: 'note', words: 'previous owner’s marks' },
  { code: 'copiedCode', severity: 'note', words: 'code stands on another cell too' },
] as const satisfies readonly FindingKind[];
/** Code of a thing an inspection can find. */
export type FindingCode = (typeof FINDING_KINDS)[number]['code'];

/** A finding's kind by its code. @throws RangeError for a code that is none. */
export function findingKind(code: string): FindingKind {
  const kind = FINDING_KINDS.find((candidate) => candidate.code === code);
  if (!kind) throw new RangeError(`${code} is no kind of finding.`);
  return kind;
}

/** Findings a person can see on a cell of a format. */
export function findingsOf(format: CellFormat): FindingKind[] {
  return (FINDING_KINDS as readonly FindingKind[]).filter(
    (kind) => !kind.forGood && (!kind.formats || kind.formats.includes(format)),
  );
}

/** What follows from a severity, in words. */
export const WHAT_FOLLOWS: Record<Severity, string> = {
  stop: 'Quarantined at once: no charge, no stacking.',
  serious: 'May not go in a tester until made good, with what was done.',
  note: 'Recorded; nothing is held up.',
};

/** Shown where cells are unpacked (handbook, Safety). */
export const UNPACKING_CAUTION =
  'Leaked electrolyte burns and gives off toxic fumes: gloves, eye protection, air; do not touch wet cells. Put a quarantined cell apart, outdoors or in a fire-safe place, and do not charge or stack it. Local codes and a licensed practitioner come first.';

/** Swelling of a prismatic cell against its drawing: note from 3 %, stop from 8 % (house defaults). */
export const SWELLING = { notePct: 3, stopPct: 8 } as const;

/**
 * Judges a measured thickness against the drawing.
 * @param thicknessMm measured, mm. @param drawingMm as drawn, mm.
 * @returns the finding it makes, or null; and the swelling in percent.
 * @example judgeSwelling(75, 72) // { pct: 4.17, finding: 'slightlySwollen' }
 */
export function judgeSwelling(
  thicknessMm: number,
  drawingMm: number,
): { pct: number; finding: 'swollen' | 'slightlySwollen' | null } {
  if (!(thicknessMm > 0) || !(drawingMm > 0))
    throw new RangeError('Expected thicknesses above 0 mm.');
  const pct = 100 * (thicknessMm / drawingMm - 1);
  // A hair below a limit by floating point is on it.
  const reached = (limit: number) => pct >= limit - 1e-9;
  const finding = reached(SWELLING.stopPct)
    ? 'swollen'
    : reached(SWELLING.notePct)
      ? 'slightlySwollen'
      : null;
  return { pct, finding };
}

/** The worst of some severities; null for none. */
export function worstSeverity(severities: readonly Severity[]): Severity | null {
  return SEVERITIES.find((severity) => severities.includes(severity)) ?? null;
}
