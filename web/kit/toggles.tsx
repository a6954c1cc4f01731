'use client';

import { ToggleGroup } from 'radix-ui';
import type { ReactNode } from 'react';

/** One of a few as a row of buttons that change what is shown. */
export function Toggles<Value extends string>({
  label,
  value,
  onValue,
  options,
}: {
  label: string;
  value: Value;
  onValue: (value: Value) => void;
  options: readonly (readonly [value: Value, words: ReactNode])[];
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      // Pressing what is chosen already keeps it.
      onValueChange={(next) => next !== '' && onValue(next as Value)}
      className="inline-flex flex-wrap gap-1"
    >
      {options.map(([own, words]) => (
        <ToggleGroup.Item
          key={own}
          value={own}
          className="min-h-9 rounded-sm border border-rule px-3 py-1 text-quiet hover:bg-wash data-[state=on]:border-ember data-[state=on]:bg-ember-wash data-[state=on]:font-medium data-[state=on]:text-ink"
        >
          {words}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
