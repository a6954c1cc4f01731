import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import type { ReportSnapshot } from '../reports/snapshot';
import type { PlanAnswer, PlanTask } from '../bench/plan-task';
import type { LogResult, LogTask, RecomputeTask } from './compute-log';
import type { TraceViewTask } from './trace-view';
import type { recomputeLog } from './compute-log';
import type { WindowView } from './window';
import type { WindowTask } from './window-task';

/** Heavy work off the main thread: logs read, runs recomputed, traces drawn, reports set. */
export interface ComputePool {
  /** Hands the bytes over to a worker: the caller cannot read them afterwards. */
  computeLog(task: LogTask, signal?: AbortSignal): Promise<LogResult>;
  recomputeLog(task: RecomputeTask): Promise<ReturnType<typeof recomputeLog>>;
  viewTrace(task: TraceViewTask): Promise<Uint8Array>;
  windowOfRun(task: WindowTask): Promise<WindowView>;
  renderReport(snapshot: ReportSnapshot): Promise<Uint8Array>;
  planTask(task: PlanTask): Promise<PlanAnswer>;
  close(): Promise<void>;
}

/** A buffer that may be handed over: only one that the view covers whole. */
function ownBuffer({ buffer, byteLength }: Uint8Array): ArrayBuffer[] {
  return buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : [];
}

/**
 * Starts the workers.
 * @param workerFile the bundle made by `npm run build` (lab/dist/worker.mjs).
 */
export function openComputePool(workerFile: string): ComputePool {
  const pool = new Piscina({
    filename: workerFile,
    minThreads: 1,
    maxThreads: Math.max(2, availableParallelism()),
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  });
  return {
    computeLog: (task, signal) =>
      pool.run(task, {
        name: 'computeLog',
        signal,
        transferList: task.bytes ? ownBuffer(task.bytes) : [],
      }) as Promise<LogResult>,
    recomputeLog: (task) =>
      pool.run(task, { name: 'recomputeLog' }) as Promise<ReturnType<typeof recomputeLog>>,
    viewTrace: (task) => pool.run(task, { name: 'viewTrace' }) as Promise<Uint8Array>,
    windowOfRun: (task) => pool.run(task, { name: 'windowOfRun' }) as Promise<WindowView>,
    renderReport: (snapshot) => pool.run(snapshot, { name: 'renderReport' }) as Promise<Uint8Array>,
    planTask: (task) => pool.run(task, { name: 'planTask' }) as Promise<PlanAnswer>,
    close: () => pool.destroy(),
  };
}
