import { Gunzip } from 'fflate';
import { LogRefusal } from './refusal';

/** A packed log is not unpacked beyond this, bytes. */
const MOST_UNPACKED = 1024 * 1024 * 1024;
/** JSON lines are told by their first one. */
const HEAD_BYTES = 65_536;
/** Keys looked for in the first so many lines. */
const HEAD_LINES = 200;
const BRACE = 123;
const BRACKET = 91;

const isGzip = (raw: Uint8Array): boolean => raw[0] === 0x1f && raw[1] === 0x8b;

/** First byte that is no blank, after a byte-order mark. */
function firstByte(raw: Uint8Array): number {
  let at = raw[0] === 0xef && raw[1] === 0xbb && raw[2] === 0xbf ? 3 : 0;
  while (at < raw.length && raw[at]! <= 32) at++;
  return raw[at] ?? -1;
}

/** Whether a file begins like one object a row, or a list of them. */
const isJson = (raw: Uint8Array): boolean => {
  const first = firstByte(raw);
  if (first !== BRACE && first !== BRACKET) return false;
  const head = new TextDecoder().decode(raw.subarray(0, HEAD_BYTES)).replace(/^\ufeff/, '');
  return /^\s*\[?\s*\{\s*"(?:[^"\\]|\\.)*"\s*:/.test(head);
};

/** Whether a log has to be unpacked as a whole before it can be read. */
export const isPacked = (head: Uint8Array): boolean => isGzip(head) || isJson(head);

function gunzipped(raw: Uint8Array): Uint8Array {
  const parts: Uint8Array[] = [];
  let size = 0;
  const gunzip = new Gunzip((part) => {
    size += part.length;
    if (size > MOST_UNPACKED)
      throw new LogRefusal({
        code: 'packed-too-large',
        message: `The packed file unpacks to more than ${MOST_UNPACKED / 1024 ** 3} GiB. Expected a log of one run.`,
      });
    parts.push(part);
  });
  try {
    for (let at = 0; at < raw.length; at += 1 << 20)
      gunzip.push(raw.subarray(at, at + (1 << 20)), at + (1 << 20) >= raw.length);
  } catch (error) {
    if (error instanceof LogRefusal) throw error;
    throw new LogRefusal({
      code: 'packed-damaged',
      message: `The file is packed with gzip and cannot be unpacked (${(error as Error).message}). Expected a whole .gz file.`,
    });
  }
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

type Flat = Record<string, string>;

/** An object as cells, one level of objects within it flattened: `{"cell":{"u":3.3}}` is `cell.u`. */
function flatten(value: object): Flat {
  const flat: Flat = {};
  for (const [key, one] of Object.entries(value)) {
    if (one !== null && typeof one === 'object' && !Array.isArray(one)) {
      for (const [inner, own] of Object.entries(one as object))
        if (own === null || typeof own !== 'object') flat[`${key}.${inner}`] = textOf(own);
    } else if (!Array.isArray(one)) flat[key] = textOf(one);
  }
  return flat;
}

const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
    ? String(value)
    : '';
const quoted = (text: string): string =>
  /[\t"\n\r]/.test(text) ? `"${text.replaceAll('"', '""').replace(/[\n\r]+/g, ' ')}"` : text;

/** Rows of JSON as a table of tabs: the keys of the first rows are its header. */
function tableOf(raw: Uint8Array): Uint8Array {
  const text = new TextDecoder()
    .decode(raw)
    .replace(/^\ufeff/, '')
    .trim();
  const refuse = (row: number, found: string): never => {
    throw new LogRefusal({
      code: 'not-json-lines',
      message: `Row ${row}: expected one JSON object a row, found “${found.slice(0, 40)}”.`,
      row,
    });
  };
  let rows: Flat[];
  if (text.startsWith('[')) {
    try {
      rows = (JSON.parse(text) as object[]).map(flatten);
    } catch {
      return refuse(1, text);
    }
  } else {
    const lines = text.split(/\r?\n/);
    rows = lines.flatMap((line, i) => {
      // A blank line stays one: rows are named by their lines in the file.
      if (line.trim() === '') return [{}];
      try {
        return [flatten(JSON.parse(line.replace(/,\s*$/, '')) as object)];
      } catch {
        // A logger that lost power leaves half of its last line.
        return i === lines.length - 1 && i > 0 ? [] : refuse(i + 1, line);
      }
    });
  }
  const keys = [...new Set(rows.slice(0, HEAD_LINES).flatMap((row) => Object.keys(row)))];
  const lines = [keys.map(quoted).join('\t')];
  for (const row of rows)
    lines.push(
      Object.keys(row).length === 0 ? '' : keys.map((key) => quoted(row[key] ?? '')).join('\t'),
    );
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

/** A log as text, and how many rows of it are not in the file: the header JSON lines are given. */
export interface UnpackedLog {
  bytes: Uint8Array;
  addedRows: number;
}

/**
 * The text of a log that comes packed: gzip, and JSON lines (one object a row) as a table of tabs.
 * Anything else is left as it is.
 * @throws LogRefusal where it is damaged, or unpacks to more than 1 GiB.
 */
export function unpackLog(raw: Uint8Array): UnpackedLog {
  const plain = isGzip(raw) ? gunzipped(raw) : raw;
  return isJson(plain) ? { bytes: tableOf(plain), addedRows: 1 } : { bytes: plain, addedRows: 0 };
}
