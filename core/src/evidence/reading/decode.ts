import { LogRefusal } from './refusal';
import { unpackLog } from './unpack';

/** A file as bytes that can be scanned, with how they were made from it. */
export interface DecodedLog {
  /** Text bytes in an ASCII-compatible encoding, without byte-order mark and NUL tail. */
  bytes: Uint8Array;
  /** For turning the few text cells into strings. */
  textEncoding: 'utf-8' | 'windows-1252';
  /** The encoding found in the file, as shown to people. */
  encoding: string;
  /** NUL bytes dropped from the end, left by a logger that lost power. */
  droppedNulBytes: number;
  /** Rows at the head that are not in the file. */
  addedRows: number;
}

const SAMPLE = 65536;

/**
 * Finds the encoding of a log and brings it to single-byte-compatible text.
 * @throws LogRefusal for an empty file or one that is not text.
 */
export function decodeLog(packed: Uint8Array): DecodedLog {
  const { bytes: raw, addedRows } = unpackLog(packed);
  let end = raw.length;
  while (end > 0 && raw[end - 1] === 0) end--;
  const utf16 = utf16Order(raw);
  if (utf16 === 'utf-16le' && end % 2 === 1 && end < raw.length) end++;
  const droppedNulBytes = raw.length - end;
  if (end === 0) {
    throw new LogRefusal({
      code: 'empty-file',
      message: 'The file is empty. Expected a text log with a header row and rows of readings.',
    });
  }
  if (utf16) {
    const text = new TextDecoder(utf16).decode(raw.subarray(0, end));
    const bytes = new TextEncoder().encode(text);
    return {
      bytes,
      textEncoding: 'utf-8',
      encoding: utf16.toUpperCase(),
      droppedNulBytes,
      addedRows,
    };
  }
  const hasMark = raw[0] === 0xef && raw[1] === 0xbb && raw[2] === 0xbf;
  const bytes = raw.subarray(hasMark ? 3 : 0, end);
  refuseBinary(bytes);
  const textEncoding = isUtf8(bytes.subarray(0, SAMPLE)) ? 'utf-8' : 'windows-1252';
  const encoding = textEncoding === 'utf-8' ? 'UTF-8' : 'Windows-1252';
  return { bytes, textEncoding, encoding, droppedNulBytes, addedRows };
}

/** Byte order of two-byte text, by its mark or its zero bytes; null for one-byte text. */
export function utf16Order(raw: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  if (raw[0] === 0xff && raw[1] === 0xfe) return 'utf-16le';
  if (raw[0] === 0xfe && raw[1] === 0xff) return 'utf-16be';
  const length = Math.min(raw.length, 512) & ~1;
  if (length < 16) return null;
  let even = 0;
  let odd = 0;
  for (let i = 0; i < length; i += 2) {
    if (raw[i] === 0) even++;
    if (raw[i + 1] === 0) odd++;
  }
  if (odd > length * 0.4 && even === 0) return 'utf-16le';
  return even > length * 0.4 && odd === 0 ? 'utf-16be' : null;
}

function refuseBinary(bytes: Uint8Array): void {
  const length = Math.min(bytes.length, SAMPLE);
  let control = 0;
  for (let i = 0; i < length; i++) {
    const byte = bytes[i]!;
    if (byte < 9 || (byte > 13 && byte < 32) || byte === 127) control++;
  }
  if (control > length * 0.01) {
    throw new LogRefusal({
      code: 'not-text',
      message: `Row 1 is not text: ${control} control bytes in the first ${length}. Expected a text log (CSV or TSV).`,
      row: 1,
    });
  }
}

function isUtf8(bytes: Uint8Array): boolean {
  let end = bytes.length;
  for (let back = 0; back < 4 && end > 0 && bytes[end - 1]! >= 0x80; back++) end--;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, end));
    return true;
  } catch {
    return false;
  }
}
