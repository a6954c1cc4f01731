'use client';

import type { TypedQuantity } from '@dusk-tally/core/units';
import { type ReactNode, useState } from 'react';
import { useController } from 'react-hook-form';
import { Choice } from '../choice';
import { DateField } from '../date-field';
import { Input, Label, Suggesting, TextArea } from '../form-parts';
import { inUnit, NumberInput, numberTyped, type ShownIn } from '../quantity-field';

interface FieldProps {
  /** Path in what the act takes. */
  name: string;
  label: ReactNode;
  className?: string;
}

function useField(name: string) {
  const { field, fieldState } = useController({ name });
  return { field, problem: fieldState.error?.message ?? null };
}

/** One line of text. */
export function TextField({
  name,
  label,
  className,
  ...rest
}: FieldProps & {
  type?: 'text' | 'email' | 'password';
  autoComplete?: string;
  placeholder?: string;
}) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <Input {...rest} {...field} value={String(field.value ?? '')} />
    </Label>
  );
}

/** Several lines of text. */
export function LinesField({ name, label, className, rows = 3 }: FieldProps & { rows?: number }) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <TextArea
        rows={rows}
        value={String(field.value ?? '')}
        onChange={field.onChange}
        onBlur={field.onBlur}
      />
    </Label>
  );
}

/** One line of text that offers what is known. */
export function KnownField({
  name,
  label,
  className,
  known,
}: FieldProps & { known: Parameters<typeof Suggesting>[0]['known'] }) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <Suggesting
        value={String(field.value ?? '')}
        onValue={field.onChange}
        onBlur={field.onBlur}
        known={known}
      />
    </Label>
  );
}

/** One of several. */
export function ChoiceField({
  name,
  label,
  className,
  children,
  asNumber = false,
}: FieldProps & {
  children: ReactNode;
  /** Values are numbers, such as those of rows. */
  asNumber?: boolean;
}) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <Choice
        value={String(field.value ?? '')}
        onValue={(next) => field.onChange(asNumber && next !== '' ? Number(next) : next || null)}
      >
        {children}
      </Choice>
    </Label>
  );
}

/** A day, or none. */
export function DayField({ name, label, className }: FieldProps) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <DateField
        value={String(field.value ?? '')}
        onValue={(day) => field.onChange(day === '' ? null : day)}
      />
    </Label>
  );
}

const textOf = (value: unknown): string =>
  typeof value === 'number' || typeof value === 'string' ? String(value) : '';

/** A number with its unit or without. */
export function NumberField({
  name,
  label,
  className,
  quantity,
  blank = null,
  shownIn,
}: FieldProps & {
  quantity: TypedQuantity;
  /** What an empty field means. */
  blank?: number | null;
  /** The unit it is shown in, where that is not the stored one. */
  shownIn?: ShownIn;
}) {
  const { field, problem } = useField(name);
  // As it is typed; anything that sets the value from outside replaces it.
  const [typed, setTyped] = useState<{ text: string; value: unknown } | null>(null);
  const value: unknown = field.value;
  const shown = value === blank ? '' : typeof value === 'number' ? inUnit(value, shownIn) : value;
  const text = typed !== null && typed.value === value ? typed.text : textOf(shown);
  return (
    <Label text={label} problem={problem} className={className}>
      <NumberInput
        quantity={quantity}
        shownIn={shownIn}
        text={text}
        onText={(next) => {
          const value = numberTyped(next, quantity, shownIn) ?? blank;
          setTyped({ text: next, value });
          field.onChange(value);
        }}
        onBlur={field.onBlur}
      />
    </Label>
  );
}
