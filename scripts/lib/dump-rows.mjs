import { createHash } from 'node:crypto';
import { Transform } from 'node:stream';

/** What a dump never holds: what reaches outside its one database. */
const NEVER =
  /^\s*(\\|use\b|grant\b|revoke\b|select\b|call\b|load\b|install\b|source\b|system\b)|\b(create|drop|alter)\s+(database|schema|user|server)\b|\b(out|dump)file\b|`\s*\.\s*`/i;
const INSERT = /^INSERT INTO `(\w+)` VALUES\s*/;
const [QUOTE, BACKSLASH, OPEN, CLOSE, SEMICOLON, NEWLINE] = [39, 92, 40, 41, 59, 10];

/** A file that is no backup, or not a whole one. */
export class NoBackup extends Error {}

/**
 * Reads a dump as it passes: which tables it makes, how many rows it has for each, and its hash.
 * What is no part of a dump of one database ends it with `NoBackup`.
 */
export class DumpRows extends Transform {
  /** @type {Map<string, number>} */
  rows = new Map();
  line = 1;
  /** Last line that says anything. */
  last = '';
  hash = createHash('sha256');
  /** Bytes of the line outside of rows. */
  text = [];
  /** Of rows being read: their table, whether in a text, behind a backslash, how deep in brackets. */
  at = null;

  _transform(chunk, _encoding, done) {
    this.hash.update(chunk);
    try {
      for (const byte of chunk) this.take(byte);
      done(null, chunk);
    } catch (error) {
      done(error);
    }
  }

  _flush(done) {
    try {
      if (this.at) throw new NoBackup('The backup ends in the middle of a table.');
      if (this.text.length > 0) this.endLine();
      if (!this.last.startsWith('-- Dump completed'))
        throw new NoBackup('The backup has no end: it was cut off, or never finished.');
      done();
    } catch (error) {
      done(error);
    }
  }

  take(byte) {
    if (byte === NEWLINE) this.line++;
    if (this.at) return this.takeOfRows(byte);
    if (byte === NEWLINE) return this.endLine();
    this.text.push(byte);
    // Rows begin on their line, or behind it.
    if (byte === OPEN && this.text[0] === 73) {
      const match = INSERT.exec(Buffer.from(this.text).toString('latin1'));
      if (match) this.beginRows(match[1], 1);
    }
  }

  beginRows(table, depth) {
    if (!this.rows.has(table)) throw new NoBackup(`Line ${this.line} has rows of no table.`);
    this.at = { table, inText: false, isEscaped: false, depth };
    if (depth > 0) this.rows.set(table, this.rows.get(table) + 1);
    this.text = [];
  }

  takeOfRows(byte) {
    const { at } = this;
    if (at.isOver) {
      if (byte !== NEWLINE) throw new NoBackup(`Line ${this.line} goes on behind its rows.`);
      this.at = null;
    } else if (at.isEscaped) at.isEscaped = false;
    else if (at.inText) {
      if (byte === BACKSLASH) at.isEscaped = true;
      else if (byte === QUOTE) at.inText = false;
    } else if (byte === QUOTE) at.inText = true;
    else if (byte === OPEN && ++at.depth === 1)
      this.rows.set(at.table, this.rows.get(at.table) + 1);
    else if (byte === CLOSE) at.depth--;
    else if (byte === SEMICOLON && at.depth === 0) at.isOver = true;
  }

  endLine() {
    const text = Buffer.from(this.text).toString('utf8');
    this.text = [];
    if (text.trim() === '') return;
    this.last = text;
    if (text.startsWith('--')) return;
    const insert = INSERT.exec(text);
    if (insert) return this.beginRows(insert[1], 0);
    const table = /^CREATE TABLE `(\w+)`/.exec(text);
    if (table) this.rows.set(table[1], 0);
    if (/^INSERT\b/i.test(text) || NEVER.test(text))
      throw new NoBackup(
        `Line ${this.line - 1} is no part of a backup of Dusk Tally: “${text.slice(0, 60)}”.`,
      );
  }
}
