import type { AlarmView } from '@dusk-tally/lab/bench';

const RANK = ['block', 'stop', 'pause', 'tell'];
/** Alike alarms this close to the one before are drawn together, ms. */
const TOGETHER_MS = 120_000;

/**
 * Alarms worst first, then newest; alike ones of about the same time together, as when a line to
 * many instruments is lost. One that blocks a cell always stands alone.
 */
export function groupAlarms(alarms: readonly AlarmView[]): AlarmView[][] {
  const sorted = [...alarms].sort(
    (a, b) => RANK.indexOf(a.action) - RANK.indexOf(b.action) || b.id - a.id,
  );
  const groups: AlarmView[][] = [];
  for (const one of sorted) {
    const at = new Date(one.at).getTime();
    const like =
      one.action === 'block'
        ? undefined
        : groups.find(
            (group) =>
              group[0]!.code === one.code &&
              group[0]!.action === one.action &&
              Math.abs(new Date(group[group.length - 1]!.at).getTime() - at) <= TOGETHER_MS,
          );
    if (like) like.push(one);
    else groups.push([one]);
  }
  return groups;
}
