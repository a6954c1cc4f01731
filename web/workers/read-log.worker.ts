import {
  curveOf,
  dischargedAh,
  encodeCurve,
  figuresOfLog,
  type LogMapping,
  LogRefusal,
  type LogSketch,
  readLog,
  sketchOf,
} from '@dusk-tally/core/evidence';

/** Asks for a preview of one file. */
export interface PreviewRequest {
  id: number;
  bytes: ArrayBuffer;
  cutoffV: number;
  ratedAh: number | null;
  /** Columns people assigned, by the header’s shape. */
  mappings: Record<string, LogMapping>;
}

export type PreviewReply =
  | { id: number; kind: 'progress'; share: number }
  | { id: number; kind: 'refused'; message: string; sketch: LogSketch | null }
  | {
      id: number;
      kind: 'read';
      rows: number;
      sections: { kind: string; fromS: number; toS: number; ah: number }[];
      columns: { header: string; role: string }[];
      findings: string[];
      capacity: { value: number; bound: string; U: number } | null;
      sketch: LogSketch | null;
      /** Whole log, thinned, as `encodeCurve` bytes. */
      curve: Uint8Array;
    };

const scope = self as unknown as {
  onmessage: (event: MessageEvent<PreviewRequest>) => void;
  postMessage: (reply: PreviewReply) => void;
};

function sketch(bytes: ArrayBuffer): LogSketch | null {
  try {
    return sketchOf(new Uint8Array(bytes));
  } catch {
    return null;
  }
}

function preview({ id, bytes, cutoffV, ratedAh, mappings }: PreviewRequest): PreviewReply {
  try {
    const log = readLog(new Uint8Array(bytes), {
      mappings,
      onProgress: (share) => scope.postMessage({ id, kind: 'progress', share }),
    });
    const figures = figuresOfLog(log, {
      cutoffsV: [cutoffV],
      accuracy: null,
      ratedAh: ratedAh ?? undefined,
    });
    const last = log.trace.timeS.length - 1;
    const capacity = figures.capacities?.[0]?.capacity;
    return {
      id,
      kind: 'read',
      rows: log.rows,
      sketch: sketch(bytes),
      sections: figures.sections
        .slice(0, 200)
        .map(({ kind, fromS, toS, ah }) => ({ kind, fromS, toS, ah })),
      columns: log.dialect.columns.map(({ header, role }) => ({ header, role })),
      findings: figures.findings.map((finding) => finding.text),
      capacity: capacity
        ? {
            value: capacity.value,
            bound: capacity.bound,
            U: 2 * (capacity.standardUncertainty ?? 0),
          }
        : null,
      curve: encodeCurve(
        curveOf(log.trace, dischargedAh(log.trace, figures.discharge), {
          from: 0,
          to: last,
          points: 240,
        }),
      ),
    };
  } catch (error) {
    if (error instanceof LogRefusal)
      return { id, kind: 'refused', message: error.message, sketch: sketch(bytes) };
    return {
      id,
      kind: 'refused',
      message: `The log could not be read: ${(error as Error).message}`,
      sketch: sketch(bytes),
    };
  }
}

scope.onmessage = (event) => scope.postMessage(preview(event.data));
