/** Where a dispute stands (handbook, chapter 5, “Claiming from the supplier”). */
export const DISPUTE_STAGES = [
  'draft',
  'sent',
  'answered',
  'agreed',
  'paid',
  'lost',
  'dropped',
] as const;
/** One of them. */
export type DisputeStage = (typeof DISPUTE_STAGES)[number];

/** A lot that is not what was sold, and what is asked for it. */
export interface DisputeRow {
  id: number;
  lotId: number;
  stage: DisputeStage;
  remedy: 'return' | 'partialRefund' | 'replace';
  /** In the lot’s currency. */
  askCents: number;
  /** What is asked beyond what the books carry is for; null where nothing is. */
  ground: string | null;
  language: 'en' | 'de';
  /** What came back in the end; null before. */
  gotCents: number | null;
  personId: number;
  at: Date;
  version: number;
}

/** Something that happened; never changed. */
export interface DisputeEventRow {
  id: number;
  disputeId: number;
  /** Where it stood from then on. */
  stage: DisputeStage;
  day: string;
  text: string;
  /** Agreed or paid, cents. */
  cents: number | null;
  /** The step this one takes back; null for one of its own. */
  undoes: number | null;
  personId: number;
  at: Date;
}

/** A piece of a letter: a paragraph, a heading or a list. */
export interface LetterNode {
  type: string;
  text?: string;
  attrs?: Record<string, unknown>;
  marks?: { type: string }[];
  content?: LetterNode[];
}

/** A letter: drafted from facts, edited by a person, sent by hand. */
export interface DisputeLetterRow {
  id: number;
  disputeId: number;
  title: string;
  body: LetterNode;
  isSent: boolean;
  /** Asked when it was drafted, and a hash of what was known then; null of old ones. */
  askCents: number | null;
  basis: string | null;
  personId: number;
  at: Date;
  version: number;
}

/** A paper that came in or went out. */
export interface DisputePaperRow {
  id: number;
  disputeId: number;
  name: string;
  type: string;
  bytes: Buffer;
  size: number;
  sha256: string;
  personId: number;
  at: Date;
}

/** A dispute file: frozen; its PDF is made of it whenever it is asked for. */
export interface DisputeFileRow {
  id: number;
  disputeId: number;
  number: string;
  language: 'en' | 'de';
  /** Canonical JSON. */
  snapshot: string;
  sha256: string;
  /** Asked when it was made, and a hash of what was known then; null of old ones. */
  askCents: number | null;
  basis: string | null;
  personId: number;
  at: Date;
}
