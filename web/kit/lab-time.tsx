'use client';

import { aheadMs, dayIn, momentIn } from '@dusk-tally/core/units';
import { createContext, type ReactNode, useContext } from 'react';

const TimeZone = createContext('UTC');

/** Everything below shows days and times in the lab’s own time zone. */
export function LabTime({ timeZone, children }: { timeZone: string; children: ReactNode }) {
  return <TimeZone.Provider value={timeZone}>{children}</TimeZone.Provider>;
}

/** IANA name of the lab’s time zone. */
export const useLabTimeZone = (): string => useContext(TimeZone);

/** Day of a moment on the lab’s calendar, YYYY-MM-DD. */
export function useLabDay(): (at: Date | string) => string {
  const timeZone = useLabTimeZone();
  return (at) => dayIn(timeZone, new Date(at));
}

/** Day of a moment on the lab’s calendar. */
export function LabDay({ at }: { at: Date | string }) {
  return <time dateTime={new Date(at).toISOString()}>{useLabDay()(at)}</time>;
}

/** Day and time of a moment on the lab’s clock. */
export function LabMoment({ at }: { at: Date | string }) {
  const timeZone = useLabTimeZone();
  const moment = new Date(at);
  return (
    <time dateTime={moment.toISOString()}>
      {moment.toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short', timeZone })}
    </time>
  );
}

/** Moments as a field for day and time shows and gives them, on the lab’s clock. */
export function useMomentField(): {
  /** `2026-03-05T14:20`. */
  toField: (at: Date | string) => string;
  /** Invalid where the field is empty, or holds no day or time. */
  fromField: (text: string) => Date;
} {
  const timeZone = useLabTimeZone();
  return {
    toField: (at) => {
      const moment = new Date(at);
      const local = new Date(moment.getTime() + aheadMs(timeZone, moment));
      return local.toISOString().slice(0, 16);
    },
    fromField: (text) => {
      const [day = '', time = ''] = text.split('T');
      const isTime = /^([01]?\d|2[0-3]):[0-5]\d$/.test(time);
      if (!isTime || !/^\d{4}-\d{2}-\d{2}$/.test(day)) return new Date(NaN);
      const [hour, minute] = time.split(':').map(Number);
      return new Date(momentIn(timeZone, day, hour! * 60 + minute!));
    },
  };
}
