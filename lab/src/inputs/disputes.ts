import { centsOf } from '@dusk-tally/core/money';
import { z } from 'zod';
import { dayInput } from './day';
import { reasonInput } from './people';

const amount = z
  .number('Expected an amount.')
  .min(0, 'Expected an amount of 0 or more.')
  .max(40_000_000, 'Expected at most 40 000 000.')
  .transform((value) => centsOf(value.toFixed(2)));

/** What can be asked of a supplier. */
export const REMEDIES = ['partialRefund', 'return', 'replace'] as const;
/** Languages letters and files are written in. */
export const DISPUTE_LANGUAGES = ['en', 'de'] as const;

/** Somebody looked at an amount that is out of the ordinary, and means it. */
const certain = z
  .boolean()
  .nullish()
  .transform((value) => value ?? false);

/** What is asked beyond what the books carry: what it is for, in words the supplier reads. */
const ground = z
  .string()
  .trim()
  .max(300)
  .nullish()
  .transform((value) => value || null);

/** A dispute about a lot: what is asked, and in which language. */
export const disputeInput = z.object({
  lotId: z.int(),
  remedy: z.enum(REMEDIES),
  ask: amount,
  ground,
  certain,
  language: z.enum(DISPUTE_LANGUAGES),
});

/** The same, changed while nothing was sent. */
export const disputeChange = disputeInput
  .omit({ lotId: true })
  .extend({ id: z.int(), version: z.int() });

/** What happened next. */
export const disputeMove = z.object({
  id: z.int(),
  version: z.int(),
  stage: z.enum(['sent', 'answered', 'agreed', 'paid', 'lost', 'dropped']),
  day: dayInput,
  text: z.string().trim().min(3, 'Say what happened, in a few words.').max(2000),
  /** Agreed or paid. */
  amount: amount.nullish().transform((value) => value ?? null),
  certain,
});

/** The last step, taken back: it was noted by mistake. */
export const disputeUndo = z.object({ id: z.int(), version: z.int(), reason: reasonInput });

/** Kinds of pieces a letter is made of. */
const PIECES = [
  'doc',
  'paragraph',
  'text',
  'heading',
  'bulletList',
  'orderedList',
  'listItem',
  'hardBreak',
  'blockquote',
  'horizontalRule',
] as const;

/** How words in a letter can be written. */
const MARKS = ['bold', 'italic', 'underline', 'strike'] as const;
/** Longest letter, as it is kept. */
const LONGEST_LETTER = 200_000;

/** A piece of a letter, as the editor gives it. */
export interface LetterPiece {
  type: string;
  text?: string;
  attrs?: Record<string, unknown>;
  marks?: { type: string }[];
  content?: LetterPiece[];
}

const piece: z.ZodType<LetterPiece, LetterPiece> = z.lazy(() =>
  z.object({
    type: z.enum(PIECES),
    text: z.string().max(20_000).optional(),
    attrs: z.record(z.string(), z.unknown()).optional(),
    marks: z
      .array(z.object({ type: z.enum(MARKS) }))
      .max(10)
      .optional(),
    content: z.array(piece).max(500).optional(),
  }),
);

const letter = piece.refine((value) => JSON.stringify(value).length <= LONGEST_LETTER, {
  message: 'Expected a letter of at most 200 000 characters.',
});

/** A letter as somebody edited it. */
export const letterInput = z.object({
  id: z.int(),
  version: z.int(),
  title: z.string().trim().min(1, 'Expected a title.').max(200),
  body: letter,
});

/** A new letter, drafted from what is known. */
export const letterDraft = z.object({ disputeId: z.int() });

/** A letter that went out; it does not change any more. */
export const letterSent = z.object({ id: z.int(), version: z.int() });

/** Largest paper that is kept, bytes (15 MB). */
export const LARGEST_PAPER = 15 * 1024 * 1024;

/** A paper that came in or went out. */
export const paperInput = z.object({
  disputeId: z.int(),
  name: z.string().trim().min(1, 'Expected a name.').max(255),
  type: z
    .string()
    .max(100)
    .regex(/^[\w.+-]+\/[\w.+-]+$/, 'Expected a kind of file.'),
  bytes: z
    .instanceof(Uint8Array)
    .refine((bytes) => bytes.length > 0, 'Expected a file with something in it.')
    .refine((bytes) => bytes.length <= LARGEST_PAPER, 'Expected at most 15 MB. It was not stored.'),
});

/** A dispute file, made from what is known now. */
export const disputeFileInput = z.object({ disputeId: z.int() });
