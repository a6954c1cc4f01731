import { createHash } from 'node:crypto';
import {
  closeSync,
  fdatasync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  write,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import type { Assignment, RunRecord, RunState } from '@dusk-tally/core/bench';

/** A line of the journal. */
export type JournalEntry =
  /** A run was taken on; time 0 of its bench time is `startedAtMs` on the wall clock. */
  | { t: 'begin'; assignment: Assignment; startedAtMs: number }
  | { t: 'record'; record: RunRecord }
  /** The app has everything up to this number. */
  | { t: 'ack'; run: number; seq: number }
  | { t: 'forget'; run: number }
  /** A run as it stood when the journal was written anew, with what the app did not have. */
  | {
      t: 'snapshot';
      assignment: Assignment;
      startedAtMs: number;
      state: RunState;
      seq: number;
      acked: number;
      unsent: RunRecord[];
    };

/** A journal longer than this is written anew with what still counts, bytes. */
export const COMPACT_FROM = 8 * 1024 * 1024;

/** Where the journal of a folder is. */
export const journalPath = (folder: string): string => join(folder, 'journal.log');

const marked = (entry: JournalEntry): string => {
  const text = JSON.stringify(entry);
  return `${markOf(text)} ${text}\n`;
};
const markOf = (text: string): string =>
  createHash('sha256').update(text).digest('hex').slice(0, 8);

/**
 * What the agent may not lose, on disk before anything is done or sent because of it. A line cut
 * short by a crash ends what is read; everything before it counts.
 */
export class Journal {
  readonly path: string;
  private file: number;
  private bytes: number;
  private waiting: { lines: string[]; done: ((error: Error | null) => void)[] } | null = null;
  private isWriting = false;
  private isClosed = false;

  private constructor(
    path: string,
    private readonly compactFrom: number,
  ) {
    this.path = path;
    this.file = openSync(path, 'a');
    this.bytes = readFileSync(path).length;
  }

  /** Opens the journal of a folder. @returns it and what it held. */
  static open(
    folder: string,
    compactFrom = COMPACT_FROM,
  ): { journal: Journal; entries: JournalEntry[] } {
    mkdirSync(folder, { recursive: true });
    const path = journalPath(folder);
    const { entries, length } = readJournal(path);
    if (length !== null) {
      // The rest of a line that was cut short would spoil the next.
      writeFileSync(`${path}.new`, readFileSync(path).subarray(0, length));
      renameSync(`${path}.new`, path);
    }
    return { journal: new Journal(path, compactFrom), entries };
  }

  /** Resolves when the entries are on disk. @throws what the disk says. */
  append(entries: readonly JournalEntry[]): Promise<void> {
    if (entries.length === 0) return Promise.resolve();
    return new Promise((resolve, reject) => {
      this.waiting ??= { lines: [], done: [] };
      for (const entry of entries) this.waiting.lines.push(marked(entry));
      this.waiting.done.push((error) => (error ? reject(error) : resolve()));
      if (!this.isWriting) this.write();
    });
  }

  /** Writes what came meanwhile in one go: one sync for all of it. */
  private write(): void {
    const { waiting } = this;
    if (!waiting) return;
    this.waiting = null;
    this.isWriting = true;
    const bytes = Buffer.from(waiting.lines.join(''));
    const finish = (error: Error | null) => {
      this.isWriting = false;
      for (const done of waiting.done) done(error);
      this.write();
    };
    let from = 0;
    const next = (error: NodeJS.ErrnoException | null, count = 0) => {
      if (error) return finish(error);
      from += count;
      this.bytes += count;
      if (from < bytes.length) write(this.file, bytes, from, bytes.length - from, next);
      else fdatasync(this.file, finish);
    };
    next(null);
  }

  get wantsCompacting(): boolean {
    return this.bytes > this.compactFrom && !this.isWriting && !this.waiting;
  }

  /** Writes the journal anew with these entries only; until it is renamed, the old one counts. */
  compact(entries: readonly JournalEntry[]): void {
    const path = `${this.path}.new`;
    const text = entries.map(marked).join('');
    const file = openSync(path, 'w');
    try {
      writeFileSync(file, text);
      fsyncSync(file);
      renameSync(path, this.path);
    } catch (error) {
      closeSync(file);
      throw error;
    }
    const folder = openSync(dirname(path), 'r');
    fsyncSync(folder);
    closeSync(folder);
    closeSync(this.file);
    this.file = file;
    this.bytes = Buffer.byteLength(text);
  }

  close(): void {
    if (this.isClosed) return;
    this.isClosed = true;
    closeSync(this.file);
  }
}

/** Whole lines of a journal. @returns `length` where bytes behind the last whole line are to be cut off. */
export function readJournal(path: string): { entries: JournalEntry[]; length: number | null } {
  let bytes: Buffer;
  try {
    bytes = readFileSync(path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return { entries: [], length: null };
    throw error;
  }
  const entries: JournalEntry[] = [];
  let from = 0;
  while (from < bytes.length) {
    const end = bytes.indexOf(10, from);
    if (end < 0) break;
    const line = bytes.toString('utf8', from, end);
    const text = line.slice(9);
    if (line[8] !== ' ' || markOf(text) !== line.slice(0, 8)) break;
    entries.push(JSON.parse(text) as JournalEntry);
    from = end + 1;
  }
  return { entries, length: from < bytes.length ? from : null };
}
