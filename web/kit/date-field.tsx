'use client';

import { CalendarDays } from 'lucide-react';
import dynamic from 'next/dynamic';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { dayWords, readDay } from './date-text';
import { Input } from './form-parts';

const calendar = () => import('./calendar');
const fetchCalendar = () => void calendar().catch(() => undefined);
/** Comes when it is first opened: most days are typed. */
const Calendar = dynamic(() => calendar().then((file) => file.Calendar), { ssr: false });

const localDate = (day: string): Date | undefined =>
  /^\d{4}-\d{2}-\d{2}$/.test(day) ? new Date(`${day}T00:00:00`) : undefined;
const isoOf = (at: Date): string =>
  `${String(at.getFullYear()).padStart(4, '0')}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`;

/**
 * A day, typed as people write it or picked from a calendar. What is no day stays as typed, is
 * marked, and is handed on as it is, so that the act refuses it by name.
 */
export function DateField({
  value,
  onValue,
  label,
  name,
  className = '',
}: {
  /** `YYYY-MM-DD`, empty for none. */
  value: string;
  onValue: (day: string) => void;
  /** Said to a screen reader where no label stands around it. */
  label?: string;
  name?: string;
  className?: string;
}) {
  const [typing, setTyping] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const wrong = readDay(value) === null;
  const picked = localDate(value);
  return (
    <span className={`flex ${className}`}>
      {name !== undefined && <input type="hidden" name={name} value={value} />}
      <Input
        className="rounded-r-none"
        aria-label={label}
        aria-invalid={wrong || undefined}
        placeholder="day"
        title={wrong ? 'Expected a day, such as 27 Nov 2026 or 27.11.2026.' : undefined}
        value={typing ?? dayWords(value)}
        onChange={(event) => {
          setTyping(event.target.value);
          onValue(readDay(event.target.value) ?? event.target.value);
        }}
        onBlur={() => setTyping(null)}
      />
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label="Open the calendar"
            onPointerEnter={fetchCalendar}
            onFocus={fetchCalendar}
            className="rounded-r-sm border border-l-0 border-strong-rule bg-raised px-2 text-quiet hover:bg-wash"
          >
            <CalendarDays size={15} aria-hidden />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            className="z-[60] rounded-md border border-strong-rule bg-raised p-3 shadow-xl"
          >
            <Calendar
              picked={picked}
              onPick={(day) => {
                onValue(day ? isoOf(day) : '');
                setOpen(false);
              }}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

/** A day and a time of day, `2026-03-05T14:20` on the lab’s clock; both empty for none. */
export function MomentField({
  value,
  onValue,
  label,
}: {
  value: string;
  onValue: (moment: string) => void;
  label: string;
}) {
  const [day = '', time = ''] = value.split('T');
  const set = (nextDay: string, nextTime: string) =>
    onValue(nextDay === '' && nextTime === '' ? '' : `${nextDay}T${nextTime}`);
  return (
    <span className="flex items-start gap-2">
      <DateField
        className="w-44"
        label={`${label}, day`}
        value={day}
        onValue={(next) => set(next, time)}
      />
      <input
        className="field w-20 tabular-nums"
        aria-label={`${label}, time`}
        aria-invalid={(time !== '' && !/^([01]?\d|2[0-3]):[0-5]\d$/.test(time)) || undefined}
        placeholder="time"
        value={time}
        onChange={(event) => set(day, event.target.value)}
      />
    </span>
  );
}
