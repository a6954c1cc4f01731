'use client';

import { RadioGroup, ToggleGroup } from 'radix-ui';
import { type ReactNode, useId } from 'react';

/** One of a few that are all seen at once, each with its words. */
export function OneOf<Value extends string>({
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
  const id = useId();
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(next) => onValue(next as Value)}
      className="flex flex-wrap gap-2"
    >
      {options.map(([own, words]) => (
        <label
          key={own}
          htmlFor={`${id}-${own}`}
          className={`flex min-h-11 cursor-pointer items-center gap-2 rounded-sm border px-3 ${own === value ? 'border-ember bg-ember-wash' : 'border-rule'}`}
        >
          <RadioGroup.Item
            id={`${id}-${own}`}
            value={own}
            className="grid size-4 place-items-center rounded-full border border-strong-rule bg-raised data-[state=checked]:border-ember"
          >
            <RadioGroup.Indicator className="size-2 rounded-full bg-ember" />
          </RadioGroup.Item>
          {words}
        </label>
      ))}
    </RadioGroup.Root>
  );
}

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
