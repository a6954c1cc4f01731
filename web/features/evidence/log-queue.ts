'use client';

import type { LogMapping, LogSketch } from '@dusk-tally/core/evidence';
import { matchCell } from '@dusk-tally/core/arrivals';
import type { Clamping } from '@dusk-tally/core/chemistry';
import { useCallback, useEffect, useReducer, useRef } from 'react';
import { sendFile } from '@/lib/send-file';
import { unpackFiles } from './unpack-files';
import type { PreviewReply, PreviewRequest } from '@/workers/read-log.worker';

export type Preview = Extract<PreviewReply, { kind: 'read' }>;

/** One dropped file on its way into the store. */
export interface QueuedLog {
  id: number;
  file: File;
  cellId: number | null;
  preview: Preview | null;
  /** Its table, for assigning columns by hand. */
  sketch: LogSketch | null;
  state: 'waiting' | 'reading' | 'ready' | 'refused' | 'storing' | 'stored' | 'failed';
  /** Share read, 0 to 1. */
  progress: number;
  message: string | null;
  link: string | null;
  /** The cell may not go on a tester; a lead can take the run in with a reason. */
  gated: boolean;
  /** That reason. */
  despite: string | null;
}

export interface CellChoice {
  id: number;
  number: string;
  label: string | null;
  tested: boolean;
}

type Change =
  | { kind: 'add'; logs: QueuedLog[] }
  | { kind: 'patch'; id: number; patch: Partial<QueuedLog> }
  | { kind: 'drop'; keep: (log: QueuedLog) => boolean };

function reduce(logs: QueuedLog[], change: Change): QueuedLog[] {
  if (change.kind === 'add') return [...logs, ...change.logs];
  if (change.kind === 'drop') return logs.filter(change.keep);
  return logs.map((log) => (log.id === change.id ? { ...log, ...change.patch } : log));
}

/** What the server says of a log that was sent. */
interface StoreReply {
  ok: boolean;
  message?: string;
  link?: string;
  gate?: string;
  data?: { cell: string };
}

/** How many files are sent at once. */
const UPLOADS = 2;

export interface QueueSettings {
  lotId: number;
  cutoffV: number;
  ratedAh: number | null;
  cells: CellChoice[];
  /** Columns people assigned, by the header’s shape. */
  mappings: Record<string, LogMapping>;
}

/** A worker that says nothing for so long is ended, ms: progress comes several times a second. */
const SILENT_MS = 60_000;

/** Files being recognised in a worker, matched to cells, and stored a few at a time. */
export function useLogQueue({ lotId, cutoffV, ratedAh, cells, mappings }: QueueSettings) {
  const [logs, change] = useReducer(reduce, []);
  const worker = useRef<Worker | null>(null);
  const nextId = useRef(1);
  const stop = useRef<AbortController | null>(null);
  const waiting = useRef<QueuedLog[]>([]);
  const reading = useRef<number | null>(null);
  const known = useRef(mappings);
  const watchdog = useRef<ReturnType<typeof setTimeout> | null>(null);
  const restart = useRef<(id: number) => void>(() => undefined);

  const watch = useCallback((id: number | null) => {
    if (watchdog.current) clearTimeout(watchdog.current);
    watchdog.current = id === null ? null : setTimeout(() => restart.current(id), SILENT_MS);
  }, []);

  const readNext = useCallback(() => {
    const log = waiting.current.shift();
    reading.current = log?.id ?? null;
    watch(log?.id ?? null);
    if (!log) return;
    change({ kind: 'patch', id: log.id, patch: { state: 'reading' } });
    worker.current?.postMessage({
      id: log.id,
      file: log.file,
      cutoffV,
      ratedAh,
      mappings: known.current,
    } satisfies PreviewRequest);
  }, [cutoffV, ratedAh, watch]);

  const startWorker = useCallback(() => {
    const started = new Worker(new URL('../../workers/read-log.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.current = started;
    started.onmessage = ({ data }: MessageEvent<PreviewReply>) => {
      watch(data.id);
      if (data.kind === 'progress')
        return change({ kind: 'patch', id: data.id, patch: { progress: data.share } });
      change({
        kind: 'patch',
        id: data.id,
        patch:
          data.kind === 'read'
            ? { state: 'ready', preview: data, sketch: data.sketch, progress: 1, message: null }
            : { state: 'refused', message: data.message, sketch: data.sketch },
      });
      readNext();
    };
  }, [readNext, watch]);

  useEffect(() => {
    startWorker();
    restart.current = (id) => {
      worker.current?.terminate();
      startWorker();
      change({
        kind: 'patch',
        id,
        patch: {
          state: 'refused',
          message: `Nothing came of reading this file for ${SILENT_MS / 1000} s, so it was given up. Is it a log? Nothing was stored.`,
        },
      });
      readNext();
    };
    return () => {
      watch(null);
      worker.current?.terminate();
    };
  }, [startWorker, readNext, watch]);

  const add = useCallback(
    async (dropped: File[]) => {
      const taken = new Set<number>();
      const fresh = (await unpackFiles(dropped)).map(({ file, problem }): QueuedLog => {
        const cell = matchCell(file.name, cells);
        const cellId = cell && !taken.has(cell.id) ? cell.id : null;
        if (cellId) taken.add(cellId);
        return {
          id: nextId.current++,
          file,
          cellId,
          preview: null,
          sketch: null,
          state: problem ? 'refused' : 'waiting',
          progress: 0,
          message: problem,
          link: null,
          gated: false,
          despite: null,
        };
      });
      change({ kind: 'add', logs: fresh });
      waiting.current.push(...fresh.filter((log) => log.state === 'waiting'));
      if (reading.current === null) readNext();
    },
    [cells, readNext],
  );

  const store = useCallback(
    async (
      chosen: QueuedLog[],
      {
        channelId,
        leadMohm,
        leadUncertaintyMohm,
        ambientC,
        clamping,
      }: Record<'channelId' | 'leadMohm' | 'leadUncertaintyMohm' | 'ambientC', number | null> & {
        clamping: Clamping | null;
      },
    ) => {
      const control = new AbortController();
      stop.current = control;
      const queue = [...chosen];
      const send = async (log: QueuedLog) => {
        change({
          kind: 'patch',
          id: log.id,
          patch: { state: 'storing', message: null, progress: 0 },
        });
        const query = new URLSearchParams({ cell: String(log.cellId), name: log.file.name });
        if (channelId) query.set('channel', String(channelId));
        if (ambientC !== null) query.set('ambient', String(ambientC));
        if (clamping) query.set('clamping', clamping);
        if (leadMohm) query.set('lead', String(leadMohm));
        if (leadUncertaintyMohm) query.set('leadU', String(leadUncertaintyMohm));
        if (log.despite) query.set('despite', log.despite);
        try {
          const { body } = await sendFile<StoreReply>(
            `/api/lots/${lotId}/logs?${query}`,
            log.file,
            {
              signal: control.signal,
              onProgress: (share) =>
                change({ kind: 'patch', id: log.id, patch: { progress: share } }),
            },
          );
          const patch: Partial<QueuedLog> = body.ok
            ? { state: 'stored', link: `/cells/${body.data!.cell}` }
            : {
                state: 'failed',
                message: body.message ?? 'Not stored.',
                link: body.link ?? null,
                gated: body.gate !== undefined,
              };
          change({ kind: 'patch', id: log.id, patch });
        } catch {
          const message = control.signal.aborted
            ? 'Cancelled before it was stored.'
            : 'The connection dropped. If it did get through, storing it again is refused as the same file; nothing is kept twice.';
          change({
            kind: 'patch',
            id: log.id,
            patch: control.signal.aborted
              ? { state: 'ready', message }
              : { state: 'failed', message },
          });
        }
      };
      await Promise.all(
        Array.from({ length: UPLOADS }, async () => {
          while (queue.length > 0 && !control.signal.aborted) await send(queue.shift()!);
        }),
      );
      stop.current = null;
    },
    [lotId],
  );

  return {
    logs,
    add,
    store,
    cancel: () => stop.current?.abort(),
    assign: (id: number, cellId: number | null) => change({ kind: 'patch', id, patch: { cellId } }),
    retryDespite: (id: number, despite: string) =>
      change({ kind: 'patch', id, patch: { despite, state: 'ready', message: null, link: null } }),
    /** Reads a file again, and every other of its shape, with columns assigned by hand. */
    readAgain: (shape: string, mapping: LogMapping) => {
      known.current = { ...known.current, [shape]: mapping };
      const again = logs.filter(
        (log) => log.sketch?.shape === shape && log.state !== 'stored' && log.state !== 'storing',
      );
      for (const log of again)
        change({ kind: 'patch', id: log.id, patch: { state: 'waiting', preview: null } });
      waiting.current.push(...again);
      if (reading.current === null) readNext();
    },
    remove: (id: number) => {
      waiting.current = waiting.current.filter((log) => log.id !== id);
      change({ kind: 'drop', keep: (log) => log.id !== id });
      if (reading.current !== id) return;
      // The one being read: its reading ends with its worker.
      worker.current?.terminate();
      startWorker();
      readNext();
    },
    clearStored: () => change({ kind: 'drop', keep: (log) => log.state !== 'stored' }),
  };
}
