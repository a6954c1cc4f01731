import {
  curveOf,
  dischargedAh,
  encodeCurve,
  figuresOfLog,
  type LogFigures,
  type LogMapping,
  LogRefusal,
  type LogSketch,
  readingWords,
  type ReadLog,
  readLog,
  readLongLog,
  type Role,
  sketchOf,
  type TimeReading,
  type TimeUnit,
} from '@dusk-tally/core/evidence';
import { expandedUncertainty } from '@dusk-tally/core/units';

/** Asks for a preview of one file. */
export interface PreviewRequest {
  id: number;
  file: File;
  cutoffV: number;
  ratedAh: number | null;
  /** Columns people assigned, by the header’s shape. */
  mappings: Record<string, LogMapping>;
}

/** A reading of a bare time column, with the curve it gives. */
export interface TimeChoice {
  unit: TimeUnit;
  words: string;
  capacityAh: number | null;
  curve: Uint8Array;
}

export type PreviewReply =
  | { id: number; kind: 'progress'; share: number }
  | { id: number; kind: 'refused'; message: string; sketch: LogSketch | null }
  | {
      id: number;
      kind: 'read';
      rows: number;
      sections: { kind: string; fromS: number; toS: number; ah: number }[];
      columns: { header: string; role: Role; unit: string | null }[];
      /** Ways its time can be read, the one taken first; one alone where it is clear. */
      times: TimeChoice[];
      findings: string[];
      capacity: { value: number; bound: string; U: number | null } | null;
      sketch: LogSketch | null;
      /** Whole log, thinned, as `encodeCurve` bytes. */
      curve: Uint8Array;
    };

const scope = self as unknown as {
  onmessage: (event: MessageEvent<PreviewRequest>) => void;
  postMessage: (reply: PreviewReply) => void;
};

/** Larger files are read piece by piece. */
const LARGEST_WHOLE = 48 * 1024 * 1024;
/** Enough of a file to show its table. */
const HEAD = 1024 * 1024;
/** Between two words on progress, ms. */
const PROGRESS_MS = 100;

/** Bytes of a file; a worker may wait for them. */
const bytesOf = (file: File, from: number, to: number) =>
  new Uint8Array(new FileReaderSync().readAsArrayBuffer(file.slice(from, to)));

function sketch(file: File): LogSketch | null {
  try {
    return sketchOf(bytesOf(file, 0, Math.min(HEAD, file.size)));
  } catch {
    return null;
  }
}

/** Says how far the reading is, now and then. */
function progressOf(id: number): (share: number) => void {
  let said = 0;
  return (share) => {
    const now = performance.now();
    if (now - said < PROGRESS_MS) return;
    said = now;
    scope.postMessage({ id, kind: 'progress', share });
  };
}

const wholeCurve = ({ trace }: ReadLog, { discharge }: LogFigures): Uint8Array =>
  encodeCurve(
    curveOf(trace, dischargedAh(trace, discharge), {
      from: 0,
      to: trace.timeS.length - 1,
      points: 240,
    }),
  );

/** Every way the time of a log can be read, with the curve each gives; none where it is clear. */
function timesOf(request: PreviewRequest, log: ReadLog): TimeChoice[] {
  const others = log.otherTimes ?? [];
  const chosen = log.chosenTime;
  if (others.length === 0 || !chosen || request.file.size > LARGEST_WHOLE) return [];
  const { file, mappings, cutoffV, ratedAh } = request;
  const bytes = bytesOf(file, 0, file.size);
  return [chosen, ...others].map((reading: TimeReading): TimeChoice => {
    const read = readLog(bytes, { mappings, ratedAh, timeUnit: reading.unit });
    const figures = figuresOfLog(read, {
      cutoffsV: [cutoffV],
      accuracy: null,
      ratedAh: ratedAh ?? undefined,
    });
    return {
      unit: reading.unit,
      words: readingWords(reading),
      capacityAh: figures.capacities?.[0]?.capacity.value ?? null,
      curve: wholeCurve(read, figures),
    };
  });
}

function preview({ id, file, cutoffV, ratedAh, mappings }: PreviewRequest): PreviewReply {
  try {
    const options = { mappings, ratedAh, onProgress: progressOf(id) };
    const log =
      file.size <= LARGEST_WHOLE
        ? readLog(bytesOf(file, 0, file.size), options)
        : readLongLog(
            { size: file.size, read: (from, to) => bytesOf(file, from, to) },
            { ...options, cutoffsV: [cutoffV] },
          ).log;
    const figures = figuresOfLog(log, {
      cutoffsV: [cutoffV],
      accuracy: null,
      ratedAh: ratedAh ?? undefined,
    });
    const capacity = figures.capacities?.[0]?.capacity;
    return {
      id,
      kind: 'read',
      rows: log.rows,
      sketch: sketch(file),
      sections: figures.sections
        .slice(0, 200)
        .map(({ kind, fromS, toS, ah }) => ({ kind, fromS, toS, ah })),
      columns: log.dialect.columns.map(({ header, role, unit }) => ({
        header,
        role,
        unit: unit?.symbol ?? null,
      })),
      times: timesOf({ id, file, cutoffV, ratedAh, mappings }, log),
      findings: figures.findings.map((finding) => finding.text),
      capacity: capacity
        ? {
            value: capacity.value,
            bound: capacity.bound,
            U: expandedUncertainty(capacity),
          }
        : null,
      curve: wholeCurve(log, figures),
    };
  } catch (error) {
    if (error instanceof LogRefusal)
      return { id, kind: 'refused', message: error.message, sketch: sketch(file) };
    return {
      id,
      kind: 'refused',
      message:
        (error as Error).name === 'NotFoundError' || (error as Error).name === 'NotReadableError'
          ? 'The browser could not open this file. Is it still there?'
          : `The log could not be read: ${(error as Error).message}`,
      sketch: sketch(file),
    };
  }
}

scope.onmessage = (event) => scope.postMessage(preview(event.data));
