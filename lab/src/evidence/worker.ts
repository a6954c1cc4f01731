import { renderReport } from '../reports/pdf/render';
import { computeLog, recomputeLog } from './compute-log';
import { viewTrace } from './trace-view';
import { windowOfRun } from './window-task';

/** What the pool's workers can do; each is a pure function of its task. */
export { computeLog, recomputeLog, renderReport, viewTrace, windowOfRun };
