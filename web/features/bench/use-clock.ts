'use client';

import { useLabTimeZone } from '@/kit/lab-time';
import { clockOf } from './words';

/** `14:20` today, `Thu 14:20` within a week, else the date: on the lab’s clock. */
export function useClock(): (iso: string, now: Date) => string {
  const timeZone = useLabTimeZone();
  return (iso, now) => clockOf(iso, now, timeZone);
}
