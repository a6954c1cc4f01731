/** A bare number with decimal comma or point; null when blank, NaN when it is none. */
export function typedNumber(text: string): number | null {
  const trimmed = text.trim().replace(',', '.');
  return trimmed === '' ? null : /^-?\d*\.?\d+$/.test(trimmed) ? Number(trimmed) : NaN;
}
