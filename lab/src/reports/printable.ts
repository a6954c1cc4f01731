import { unprintable } from '../compute';
import { LabError } from '../shared';

/**
 * Names on a report or a dispute file are printed letter by letter, or it is not made.
 * @param names by the field they are typed in, or by what they are.
 * @throws LabError that names the letters.
 */
export function requirePrintable(names: Readonly<Record<string, string | null>>): void {
  for (const [what, text] of Object.entries(names)) {
    const missing = unprintable(text ?? '');
    if (missing.length === 0) continue;
    const letters = missing.slice(0, 5).join(' ');
    throw new LabError(
      'invalid',
      `${what}: “${text}” has ${missing.length === 1 ? 'a letter' : 'letters'} a PDF cannot print here (${letters}). Expected Latin, Greek or Cyrillic letters.`,
      what === 'Customer' ? { field: 'customer' } : {},
    );
  }
}
