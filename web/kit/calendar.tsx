'use client';

import { enGB } from 'date-fns/locale';
import { DayPicker } from 'react-day-picker';

/** A month to pick a day from, by pointer or arrow keys. */
export function Calendar({
  picked,
  onPick,
}: {
  picked: Date | undefined;
  onPick: (day: Date | undefined) => void;
}) {
  return (
    <DayPicker
      mode="single"
      locale={enGB}
      autoFocus
      selected={picked}
      defaultMonth={picked}
      onSelect={onPick}
      classNames={{
        month_caption: 'mb-2 font-semibold',
        nav: 'absolute right-3 top-3 flex gap-1',
        button_previous: 'grid size-7 place-items-center rounded-sm hover:bg-wash',
        button_next: 'grid size-7 place-items-center rounded-sm hover:bg-wash',
        chevron: 'size-4 fill-current',
        weekday: 'size-9 text-[0.78rem] font-medium text-quiet',
        day: 'p-0 text-center',
        day_button: 'size-9 rounded-sm tabular-nums hover:bg-wash',
        selected: '[&>button]:bg-ember [&>button]:text-on-ember',
        today: 'font-semibold text-ember',
        outside: 'text-quiet',
      }}
    />
  );
}
