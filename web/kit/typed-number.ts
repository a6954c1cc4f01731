import { parseClearQuantity, type TypedQuantity } from '@dusk-tally/core/units';

/**
 * A number as typed, in the stored unit: null when blank, NaN when it is none, or when it may be
 * read in two ways.
 */
export function typedNumber(text: string, quantity: TypedQuantity = 'plain'): number | null {
  if (text.trim() === '') return null;
  const parsed = parseClearQuantity(text, quantity);
  return parsed.ok ? parsed.value : NaN;
}
