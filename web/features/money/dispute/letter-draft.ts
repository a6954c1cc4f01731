import type { LetterPiece } from '@dusk-tally/lab/inputs';

/** A letter as it is typed, over the version it was opened from. */
export interface LetterDraft {
  version: number;
  title: string;
  body: LetterPiece;
}

/** What was kept of a letter; null for nothing, and for what is none. */
export function letterDraft(kept: unknown): LetterDraft | null {
  if (typeof kept !== 'object' || kept === null) return null;
  const { version, title, body } = kept as {
    [Name in keyof LetterDraft]?: LetterDraft[Name] | null;
  };
  return typeof version === 'number' && typeof title === 'string' && body?.type === 'doc'
    ? { version, title, body }
    : null;
}

/** Pieces that stand on a line of their own. */
const LINES: ReadonlySet<string> = new Set(['paragraph', 'heading', 'listItem', 'blockquote']);

/** A letter as plain text. */
export function letterText({ type, text = '', content = [] }: LetterPiece): string {
  if (type === 'hardBreak') return '\n';
  const inside = text + content.map(letterText).join('');
  return LINES.has(type) && !inside.endsWith('\n') ? `${inside}\n` : inside;
}
