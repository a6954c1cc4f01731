import { inflateSync } from 'node:zlib';

const HEADER = 44;
const ENTRY = 20;

/** A table of a font: where it stands in the file, and how long it is there and unpacked. */
interface PackedTable {
  tag: string;
  offset: number;
  packedLength: number;
  length: number;
  checksum: number;
}

const tablesOf = (woff: Buffer): PackedTable[] =>
  Array.from({ length: woff.readUInt16BE(12) }, (_, i) => {
    const at = HEADER + i * ENTRY;
    return {
      tag: woff.toString('latin1', at, at + 4),
      offset: woff.readUInt32BE(at + 4),
      packedLength: woff.readUInt32BE(at + 8),
      length: woff.readUInt32BE(at + 12),
      checksum: woff.readUInt32BE(at + 16),
    };
  });

const padded = (length: number): number => (length + 3) & ~3;

/**
 * A WOFF 1.0 font unpacked into an OpenType file (W3C, WOFF File Format 1.0): who sets text with it
 * reads its tables thousands of times, and would unpack them each time anew.
 * @param without tags of tables that are left out. @throws RangeError for what is no such font.
 */
export function sfntOf(woff: Buffer, without: readonly string[] = []): Buffer {
  if (woff.length < HEADER || woff.toString('latin1', 0, 4) !== 'wOFF')
    throw new RangeError('Expected a WOFF 1.0 font.');
  const tables = tablesOf(woff).filter(({ tag }) => !without.includes(tag));
  const directory = 12 + 16 * tables.length;
  const size = tables.reduce((sum, { length }) => sum + padded(length), directory);
  const sfnt = Buffer.alloc(size);
  const power = 2 ** Math.floor(Math.log2(tables.length));
  sfnt.writeUInt32BE(woff.readUInt32BE(4), 0);
  sfnt.writeUInt16BE(tables.length, 4);
  sfnt.writeUInt16BE(power * 16, 6);
  sfnt.writeUInt16BE(Math.log2(power), 8);
  sfnt.writeUInt16BE((tables.length - power) * 16, 10);
  let to = directory;
  tables.forEach(({ tag, offset, packedLength, length, checksum }, i) => {
    const packed = woff.subarray(offset, offset + packedLength);
    const table = packedLength < length ? inflateSync(packed) : packed;
    if (table.length !== length) throw new RangeError(`The table ${tag} is damaged.`);
    const at = 12 + 16 * i;
    sfnt.write(tag, at, 'latin1');
    sfnt.writeUInt32BE(checksum, at + 4);
    sfnt.writeUInt32BE(to, at + 8);
    sfnt.writeUInt32BE(length, at + 12);
    sfnt.set(table, to);
    to += padded(length);
  });
  return sfnt;
}
