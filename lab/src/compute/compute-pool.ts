import { statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { LabError } from '../shared';
import type { DisputeSnapshot } from './dispute-snapshot';
import type { ReportSnapshot } from './report-snapshot';
import type { PlanAnswer, PlanTask } from './plan-task';
import type { recomputeLog, RecomputeTask } from './compute-log';
import type { LogResult, LogTask } from './log-task';
import type {
  computeString,
  StringResult,
  StringTask,
  viewString,
  watchStretch,
} from './string-task';
import type { TraceViewTask } from './trace-view';
import type { WindowTask, WindowView } from './window-task';

/** Heavy work off the main thread: logs read, runs recomputed, traces drawn, reports set. */
declare module '../shared/lab' {
  interface Lab {
    /** Workers for reading logs and making reports. */
    compute: ComputePool;
  }
}

export interface ComputePool {
  /** Hands the bytes over to a worker: the caller cannot read them afterwards. */
  computeLog(task: LogTask, signal?: AbortSignal): Promise<LogResult>;
  recomputeLog(task: RecomputeTask): Promise<ReturnType<typeof recomputeLog>>;
  viewTrace(task: TraceViewTask): Promise<Uint8Array>;
  windowOfRun(task: WindowTask): Promise<WindowView>;
  renderReport(snapshot: ReportSnapshot): Promise<Uint8Array>;
  renderDispute(snapshot: DisputeSnapshot): Promise<Uint8Array>;
  planTask(task: PlanTask): Promise<PlanAnswer>;
  /** Hands the bytes over to a worker, as `computeLog` does. */
  computeString(task: StringTask, signal?: AbortSignal): Promise<ReturnType<typeof computeString>>;
  viewString(task: Parameters<typeof viewString>[0]): Promise<Uint8Array>;
  watchStretch(task: Parameters<typeof watchStretch>[0]): Promise<ReturnType<typeof watchStretch>>;
  close(): Promise<void>;
}

/** A buffer that may be handed over: only one that the view covers whole. */
function ownBuffer({ buffer, byteLength }: Uint8Array): ArrayBuffer[] {
  return buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : [];
}

/** Longest time of each kind of task, ms; a log has so much more for each of its megabytes. */
export const TASK_LIMITS = {
  computeLog: 60_000,
  computeLogPerMb: 4_000,
  recomputeLog: 120_000,
  viewTrace: 60_000,
  windowOfRun: 60_000,
  renderReport: 120_000,
  renderDispute: 120_000,
  planTask: 90_000,
  computeString: 60_000,
  viewString: 60_000,
  watchStretch: 60_000,
};
type TaskName = Exclude<keyof typeof TASK_LIMITS, 'computeLogPerMb'>;

const TASK_WORDS: Record<TaskName, string> = {
  computeLog: 'Reading this log',
  recomputeLog: 'Computing this run again',
  viewTrace: 'Drawing this run',
  windowOfRun: 'Reading this window off the run',
  renderReport: 'Setting this report',
  renderDispute: 'Setting this dispute file',
  planTask: 'Making this plan',
  computeString: 'Reading this log of a string',
  viewString: 'Drawing this string',
  watchStretch: 'Watching this stretch',
};

function sizeOf({ bytes, path }: Pick<LogTask, 'bytes' | 'path'>): number {
  if (bytes) return bytes.byteLength;
  try {
    return path ? statSync(path).size : 0;
  } catch {
    return 0;
  }
}

/** Lets so many through at a time; the others wait in turn. */
class Gate {
  private free: number;
  private readonly waiting: (() => void)[] = [];

  constructor(places: number) {
    this.free = places;
  }

  async enter(): Promise<void> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
  }

  leave(): void {
    const next = this.waiting.shift();
    if (next) next();
    else this.free++;
  }
}

/**
 * Starts the workers. A task that takes longer than its kind may is given up in words, and its
 * worker replaced; time spent waiting for a worker does not count.
 * @param workerFile the bundle made by `npm run build` (lab/dist/worker.mjs).
 * @param limits longest times, ms.
 */
export function openComputePool(workerFile: string, limits = TASK_LIMITS): ComputePool {
  const threads = Math.max(2, availableParallelism());
  const pool = new Piscina({
    filename: workerFile,
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  });
  const gate = new Gate(threads);
  const run = async <T>(
    name: TaskName,
    task: unknown,
    options: { limitMs?: number; signal?: AbortSignal; transferList?: ArrayBuffer[] } = {},
  ): Promise<T> => {
    const { limitMs = limits[name], signal, transferList = [] } = options;
    await gate.enter();
    const limit = new AbortController();
    const timer = setTimeout(() => limit.abort(), limitMs);
    try {
      return (await pool.run(task, {
        name,
        signal: signal ? AbortSignal.any([signal, limit.signal]) : limit.signal,
        transferList,
      })) as T;
    } catch (error) {
      if (limit.signal.aborted && !signal?.aborted)
        throw new LabError(
          'invalid',
          `${TASK_WORDS[name]} took longer than ${Math.round(limitMs / 1000)} s and was given up. Nothing was stored.`,
        );
      throw error;
    } finally {
      clearTimeout(timer);
      gate.leave();
    }
  };
  return {
    computeLog: (task, signal) =>
      run<LogResult>('computeLog', task, {
        signal,
        limitMs: limits.computeLog + (limits.computeLogPerMb * sizeOf(task)) / 1e6,
        transferList: task.bytes ? ownBuffer(task.bytes) : [],
      }),
    recomputeLog: (task) => run<ReturnType<typeof recomputeLog>>('recomputeLog', task),
    viewTrace: (task) => run<Uint8Array>('viewTrace', task),
    windowOfRun: (task) => run<WindowView>('windowOfRun', task),
    renderReport: (snapshot) => run<Uint8Array>('renderReport', snapshot),
    renderDispute: (snapshot) => run<Uint8Array>('renderDispute', snapshot),
    planTask: (task) => run<PlanAnswer>('planTask', task),
    computeString: (task, signal) =>
      run<StringResult>('computeString', task, {
        signal,
        limitMs: limits.computeString + (limits.computeLogPerMb * sizeOf(task)) / 1e6,
        transferList: task.bytes ? ownBuffer(task.bytes) : [],
      }),
    viewString: (task) => run<Uint8Array>('viewString', task),
    watchStretch: (task) => run<ReturnType<typeof watchStretch>>('watchStretch', task),
    close: () => pool.destroy(),
  };
}
