import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { planTask } from './plan-task';
import { renderDispute, renderReport } from './report-pdf/render';
import { computeLog as computeAlone, recomputeLog } from './compute-log';
import { type LogTask } from './log-task';
import { SecondThread, serveAsHelper } from './second-thread';
import { computeString, viewString, watchStretch } from './string-task';
import { viewTrace } from './trace-view';
import { windowOfRun } from './window-task';

/** How far workers stand back behind those who wait for an answer, as `nice` counts. */
const NICENESS = 19;
/** Logs from this size on are worth a second thread, bytes. */
const WORTH_TWO = 4 * 1024 * 1024;

/** Lets this thread stand back; where the system has no such thing, nothing changes. */
function standBack(): void {
  try {
    const thread = Number(readlinkSync('/proc/thread-self').split('/').at(-1));
    if (thread > 0 && thread !== process.pid) setPriority(thread, NICENESS);
  } catch {
    // Not Linux, or not allowed: the work is done all the same.
  }
}
standBack();
serveAsHelper();

let second: SecondThread | null = null;

/** Reads one log; a long one with a helper thread, which is kept for the next. */
const computeLog = (task: LogTask) => {
  if (second?.isBroken) {
    void second.close();
    second = null;
  }
  if ((task.bytes?.length ?? 0) >= WORTH_TWO) second ??= new SecondThread(new URL(import.meta.url));
  return computeAlone(task, second);
};

/** What the pool’s workers can do; each gives the same for the same task. */
export {
  computeLog,
  computeString,
  planTask,
  recomputeLog,
  renderDispute,
  renderReport,
  viewString,
  viewTrace,
  watchStretch,
  windowOfRun,
};
