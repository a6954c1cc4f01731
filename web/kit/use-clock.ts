'use client';

import { useLabTimeZone } from './lab-time';

/** `14:20` today, `Thu 14:20` within a week, else the date. */
export function clockOf(iso: string, now: Date, timeZone: string): string {
  const at = new Date(iso);
  const days = Math.abs(at.getTime() - now.getTime()) / 86_400_000;
  const time = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone });
  const sameDay =
    at.toLocaleDateString('en-GB', { timeZone }) === now.toLocaleDateString('en-GB', { timeZone });
  if (sameDay) return time;
  const day = at.toLocaleDateString(
    'en-GB',
    days < 6 ? { weekday: 'short', timeZone } : { day: 'numeric', month: 'short', timeZone },
  );
  return `${day} ${time}`;
}

/** `14:20` today, `Thu 14:20` within a week, else the date: on the lab’s clock. */
export function useClock(): (iso: string, now: Date) => string {
  const timeZone = useLabTimeZone();
  return (iso, now) => clockOf(iso, now, timeZone);
}
