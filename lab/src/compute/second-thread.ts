import { createHash } from 'node:crypto';
import {
  MessageChannel,
  type MessagePort,
  parentPort,
  receiveMessageOnPort,
  Worker,
  workerData,
} from 'node:worker_threads';
import {
  type Dialect,
  encodeColumns,
  joinScans,
  type ScannedRows,
  type ScanOptions,
  scanRows,
  type StoredColumn,
  type TraceBlock,
} from '@dusk-tally/core/evidence';

/** Logs shorter than this are read by one thread. */
const WORTH_TWO_BYTES = 4 * 1024 * 1024;
/** Longest a thread waits for the other, ms; far beyond any work it is given. */
const MOST_WAIT_MS = 120_000;
const NEWLINE = 10;

interface ScanJob {
  kind: 'scan';
  bytes: Uint8Array;
  dialect: Dialect;
  options: Pick<ScanOptions, 'endsInNuls'>;
}
interface EncodeJob {
  kind: 'encode';
  columns: [StoredColumn, Float64Array, number][];
}
interface HashJob {
  kind: 'hash';
  bytes: Uint8Array;
}
type Job = ScanJob | EncodeJob | HashJob;
interface Results {
  scan: ScannedRows;
  encode: TraceBlock[];
  hash: string;
}
interface Reply {
  number: number;
  result?: Results[Job['kind']];
  failed?: string;
}

/** SHA-256 of bytes, in hexadecimal digits. */
export const sha256Of = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('hex');

/** What a helper thread is started with. */
interface HelperData {
  isHelper: true;
  port: MessagePort;
  done: Int32Array;
}

/** A thread that works beside the one that owns it, which waits for it where it has to. */
export class SecondThread {
  private readonly worker: Worker;
  private readonly port: MessagePort;
  private readonly done = new Int32Array(new SharedArrayBuffer(4));
  private started = 0;
  /** Answers that came while another was waited for, by job. */
  private readonly early = new Map<number, Reply>();
  /** It did not answer once: what it may still say belongs to no job any more. */
  isBroken = false;

  /** @param file the workers’ bundle. */
  constructor(file: string | URL) {
    const { port1, port2 } = new MessageChannel();
    this.port = port1;
    const data: HelperData = { isHelper: true, port: port2, done: this.done };
    this.worker = new Worker(file, { workerData: data, transferList: [port2] });
    this.worker.unref();
    port1.unref();
  }

  /** Gives it a job. @returns what waits for its result; it throws what the job threw. */
  start<K extends Job['kind']>(
    job: Extract<Job, { kind: K }>,
    transfer: ArrayBuffer[] = [],
  ): () => Results[K] {
    const number = ++this.started;
    this.port.postMessage({ number, job }, transfer);
    return () => {
      const { result, failed } = this.replyTo(number);
      if (failed !== undefined) throw new Error(failed);
      return result as Results[K];
    };
  }

  private replyTo(number: number): Reply {
    for (;;) {
      const seen = Atomics.load(this.done, 0);
      const known = this.early.get(number);
      if (known) {
        this.early.delete(number);
        return known;
      }
      const received = receiveMessageOnPort(this.port) as { message: Reply } | undefined;
      if (received) this.early.set(received.message.number, received.message);
      else if (Atomics.wait(this.done, 0, seen, MOST_WAIT_MS) === 'timed-out') {
        this.isBroken = true;
        throw new Error('The second thread does not answer.');
      }
    }
  }

  close(): Promise<number> {
    return this.worker.terminate();
  }
}

function resultOf(job: Job): Results[Job['kind']] {
  if (job.kind === 'hash') return sha256Of(job.bytes);
  if (job.kind === 'encode') return encodeColumns(job.columns);
  return scanRows(job.bytes, job.dialect, { ...job.options, partOfMore: true });
}

const bufferOf = ({ buffer }: Float64Array | Uint8Array) => buffer as ArrayBuffer;

/** Serves jobs when this thread was started as a helper. @returns whether it was. */
export function serveAsHelper(): boolean {
  const data = workerData as Partial<HelperData> | null;
  if (!parentPort || !data?.isHelper) return false;
  const { port, done } = data as HelperData;
  port.on('message', ({ number, job }: { number: number; job: Job }) => {
    try {
      const result = resultOf(job);
      const buffers =
        Array.isArray(result) || typeof result === 'string'
          ? []
          : [result.timeS, ...result.numbers.map(({ values }) => values)].map(bufferOf);
      port.postMessage({ number, result }, [...new Set(buffers)]);
    } catch (error) {
      port.postMessage({ number, failed: (error as Error).message });
    }
    Atomics.add(done, 0, 1);
    Atomics.notify(done, 0);
  });
  return true;
}

/**
 * A way to read all rows of a log by two threads at once. Where the second fails, or either half
 * has something to refuse, the log is read again by one, which then says what is wrong.
 * @param afterwards called when the second has handed over its half and is free for more.
 */
export function scanInTwo(
  second: SecondThread,
  afterwards: () => void = () => undefined,
): typeof scanRows {
  return (bytes, dialect, options = {}) => {
    const middle = bytes.indexOf(
      NEWLINE,
      dialect.firstDataOffset + ((bytes.length - dialect.firstDataOffset) >> 1),
    );
    if (bytes.length < WORTH_TWO_BYTES || middle < 0 || second.isBroken)
      return scanRows(bytes, dialect, options);
    // Shared bytes are there for both; others are copied and handed over.
    const isShared = bytes.buffer instanceof SharedArrayBuffer;
    const half = isShared ? bytes.subarray(middle + 1) : bytes.slice(middle + 1);
    const waiting = second.start(
      {
        kind: 'scan',
        bytes: half,
        dialect: { ...dialect, firstDataOffset: 0, firstDataRow: 1 },
        options: { endsInNuls: options.endsInNuls },
      },
      isShared ? [] : [half.buffer as ArrayBuffer],
    );
    let first: ScannedRows | null = null;
    try {
      first = scanRows(bytes.subarray(0, middle + 1), dialect, {
        ...options,
        capacity: Math.ceil((bytes.length - dialect.firstDataOffset) / 24),
        partOfMore: true,
      });
    } catch {
      // Said by the careful reading below; the second’s answer is taken from its port first.
    }
    try {
      const rest = waiting();
      afterwards();
      if (first) return joinScans(first, rest);
    } catch {
      // Read again below.
    }
    return scanRows(bytes, dialect, options);
  };
}
