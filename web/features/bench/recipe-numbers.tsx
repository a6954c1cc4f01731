'use client';

import type { RecipeCurrent } from '@dusk-tally/core/bench';
import { useState } from 'react';
import { Choice, Option } from '@/kit/choice';
import { NumberInput } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

/** A number of a step, with its name before it. */
export function NumberField({
  name,
  value,
  change,
  optional = false,
}: {
  name: string;
  value: number | null;
  change: (value: number | null) => void;
  optional?: boolean;
}) {
  const [text, setText] = useState(value === null ? '' : String(value));
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-quiet">{name}</span>
      <NumberInput
        quantity="plain"
        text={text}
        onText={(next) => {
          setText(next);
          const value = typedNumber(next);
          change(value === null && !optional ? NaN : value);
        }}
        className="w-20"
        placeholder={optional ? '–' : ''}
      />
    </label>
  );
}

/** A current of a step: in A, in It, or as the claim says. */
export function CurrentField({
  name,
  value,
  change,
}: {
  name: string;
  value: RecipeCurrent;
  change: (value: RecipeCurrent) => void;
}) {
  return (
    <span className="flex items-center gap-1.5">
      {'value' in value && (
        <NumberField
          key={value.in}
          name={name}
          value={value.value}
          change={(next) => change({ in: value.in, value: next ?? NaN })}
        />
      )}
      {!('value' in value) && <span className="text-quiet">{name}</span>}
      <Choice
        label={`${name}: unit`}
        className="w-auto"
        value={value.in}
        onValue={(next) => {
          const unit = next as RecipeCurrent['in'];
          change(
            unit === 'A' || unit === 'It'
              ? { in: unit, value: 'value' in value ? value.value : 0.5 }
              : { in: unit },
          );
        }}
      >
        <Option value="It">It</Option>
        <Option value="A">A</Option>
        <Option value="claimRate">the claim’s rate</Option>
        <Option value="claimMaximum">the claim’s maximum</Option>
      </Choice>
    </span>
  );
}
