import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { planTask } from './plan-task';
import { renderDispute, renderReport } from './report-pdf/render';
import { computeLog, recomputeLog } from './compute-log';
import { computeString, viewString, watchStretch } from './string-task';
import { viewTrace } from './trace-view';
import { windowOfRun } from './window-task';

/** How far workers stand back behind those who wait for an answer, as `nice` counts. */
const NICENESS = 19;

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
