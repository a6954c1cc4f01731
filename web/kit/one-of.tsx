'use client';

import { RadioGroup } from 'radix-ui';
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
