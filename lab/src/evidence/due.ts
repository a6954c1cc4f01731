import { calibrationState } from '@dusk-tally/core/evidence';
import { momentIn } from '@dusk-tally/core/units';
import { labDay, labTimeZone } from '../lots';
import { DUE, type DueItem, type Lab } from '../shared';

export type EvidenceDue = 'calibrationDue' | 'calibrationOverdue';

const DAY_MIN = 1440;

/** Instruments and channels whose calibration ends soon, or has ended. */
export async function dueEvidence(lab: Lab): Promise<DueItem<EvidenceDue>[]> {
  const [today, timeZone, instruments, channels] = await Promise.all([
    labDay(lab),
    labTimeZone(lab),
    lab.store.instruments.find({}),
    lab.store.meters.channels.find({}),
  ]);
  const own = new Map(instruments.map((row) => [row.id, row]));
  const named = [
    ...instruments
      .filter(({ kind }) => kind !== 'tester')
      .map(({ name, dueOn }) => ({ name, dueOn })),
    ...channels.flatMap((channel) => {
      const tester = own.get(channel.instrumentId);
      if (!tester) return [];
      const isOnly = channels.filter((c) => c.instrumentId === tester.id).length === 1;
      const name = isOnly ? tester.name : `${tester.name}, ${channel.name}`;
      return [{ name, dueOn: channel.dueOn ?? tester.dueOn }];
    }),
  ];
  return named.flatMap(({ name, dueOn }): DueItem<EvidenceDue>[] => {
    const state = calibrationState(dueOn, today);
    if (dueOn === null || (state !== 'dueSoon' && state !== 'overdue')) return [];
    return [
      {
        ...DUE,
        key: `calibration ${name}`,
        stage: 'evidence',
        kind: state === 'overdue' ? 'calibrationOverdue' : 'calibrationDue',
        urgency: state === 'overdue' ? 'now' : 'canWait',
        note: name,
        at: new Date(momentIn(timeZone, dueOn, DAY_MIN)),
        path: '/lab/channels',
      },
    ];
  });
}
