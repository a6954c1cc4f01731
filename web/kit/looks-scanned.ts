/** A code is at least this long; a reading never is. */
const LEAST_CODE = 8;
const CELL_NUMBER = /^[A-Z]{1,8}-\d{3,}$/i;
const READING = /^[+-]?\d*[.,]?\d+\s*[a-zµμωΩ]{0,4}$/i;

/** Whether keys that ran into a field of numbers are a code, and no reading typed by a quick hand. */
export function looksScanned(keys: string): boolean {
  const text = keys.trim();
  if (CELL_NUMBER.test(text)) return true;
  if (text.length < LEAST_CODE) return false;
  return !READING.test(text) || /^\d+$/.test(text);
}
