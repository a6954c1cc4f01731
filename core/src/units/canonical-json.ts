/**
 * JSON with object keys sorted and no white space, so that equal data has equal
 * bytes (the serialisation of RFC 8785 for data without lone surrogates).
 * @throws TypeError on a number that is not finite.
 * @example canonicalJson({ b: 1, a: [2, 0.1] }) // '{"a":[2,0.1],"b":1}'
 */
export function canonicalJson(value: unknown): string {
  if (typeof value === 'number' && !Number.isFinite(value)) {
    throw new TypeError(`Expected a finite number in canonical JSON; found ${value}.`);
  }
  if (value === null || typeof value !== 'object') return JSON.stringify(value) ?? 'null';
  if (value instanceof Date) return JSON.stringify(value.toISOString());
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  const entries = Object.entries(value)
    .filter(([, entry]) => entry !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
    .map(([key, entry]) => `${JSON.stringify(key)}:${canonicalJson(entry)}`);
  return `{${entries.join(',')}}`;
}
