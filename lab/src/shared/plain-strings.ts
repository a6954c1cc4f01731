/**
 * Signs that are not seen and change what is: control characters but for line ends and tabs, marks
 * that turn the direction of what follows, and the mark of a byte order.
 */
const UNSEEN =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** A text without signs that are not seen. */
export const plainText = (text: string): string => text.replace(UNSEEN, '');

/** Nothing an act takes lies deeper than this in lists and things with names. */
const DEEPEST = 60;

/** Whether something lies deeper in itself than any input does; found without going down into it. */
export function isTooDeep(value: unknown): boolean {
  let layer: unknown[] = [value];
  for (let depth = 0; layer.length > 0; depth++) {
    if (depth > DEEPEST) return true;
    layer = layer.flatMap((one): unknown[] => {
      if (Array.isArray(one)) return one;
      return typeof one === 'object' && one !== null && isPlain(one) ? Object.values(one) : [];
    });
  }
  return false;
}

/**
 * All texts of an input without signs that are not seen, so that none reaches a screen, a file or a
 * report.
 * @param verbatim fields that stay as they came: evidence, and what nobody shows.
 */
export function plainStrings(value: unknown, verbatim: readonly string[] = []): unknown {
  if (typeof value === 'string') return plainText(value);
  if (Array.isArray(value)) return value.map((one) => plainStrings(one, verbatim));
  if (typeof value !== 'object' || value === null || !isPlain(value)) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, one]) => [
      name,
      verbatim.includes(name) ? one : plainStrings(one, verbatim),
    ]),
  );
}

/** Bytes, dates and other things with a kind of their own are left alone. */
function isPlain(value: object): boolean {
  const kind: unknown = Object.getPrototypeOf(value);
  return kind === Object.prototype || kind === null;
}
