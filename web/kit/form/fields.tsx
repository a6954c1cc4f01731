'use client';

import type { TypedQuantity } from '@dusk-tally/core/units';
import { type ReactNode, useState } from 'react';
import { useController } from 'react-hook-form';
import { Choice } from '../choice';
import { DateField, MomentField } from '../date-field';
import { useMomentField } from '../lab-time';
import { Tick } from '../tick';
import { Input, Label, Suggesting, TextArea } from '../form-parts';
import { inUnit, NumberInput, numberTyped, type ShownIn } from '../quantity-field';

interface FieldProps {
  /** Path in what the act takes. */
  name: string;
  label: ReactNode;
  className?: string;
}

/** A field of the form around it, and what is wrong with it. */
export function useField(name: string) {
  const { field, fieldState } = useController({ name });
  const { error } = fieldState;
  // Of a field that holds several things, such as an address with an input, the first that is wrong.
  const inner = Object.values((error ?? {}) as object).find(
    (part: unknown): part is { message: string } =>
      typeof part === 'object' && part !== null && 'message' in part,
  );
  return { field, problem: error?.message ?? inner?.message ?? null };
}

/** One line of text. */
export function TextField({
  name,
  label,
  className,
  blank = '',
  ...rest
}: FieldProps & {
  /** What an empty field means. */
  blank?: '' | null;
  type?: 'text' | 'email' | 'password';
  autoComplete?: string;
  autoFocus?: boolean;
  placeholder?: string;
}) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <Input
        {...rest}
        {...field}
        value={String(field.value ?? '')}
        onChange={({ target }) => field.onChange(target.value === '' ? blank : target.value)}
      />
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

/** An amount as people write it: two decimals or none; parts of a cent stay. */
function amountText(value: number): string {
  const cents = value * 100;
  const isWhole = Math.abs(cents - Math.round(cents)) < 1e-6;
  return isWhole && !Number.isInteger(value) ? value.toFixed(2) : String(value);
}

const textOf = (value: unknown, quantity: TypedQuantity): string => {
  if (typeof value === 'number') return quantity === 'money' ? amountText(value) : String(value);
  return typeof value === 'string' ? value : '';
};

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
  const text = typed !== null && typed.value === value ? typed.text : textOf(shown, quantity);
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

/** Yes or no. */
export function TickField<Value = boolean>({
  name,
  label,
  className,
  yes = true as Value,
  no = false as Value,
}: FieldProps & {
  /** What is kept where it is ticked, and where it is not. */
  yes?: Value;
  no?: Value;
}) {
  const { field } = useField(name);
  return (
    <Tick
      className={className}
      checked={field.value === yes}
      onChecked={(on) => field.onChange(on ? yes : no)}
    >
      {label}
    </Tick>
  );
}

/** Some of several, kept in the order they are offered. */
export function SomeField<Value extends string | number>({
  name,
  label,
  className = 'flex flex-wrap gap-2',
  offered,
}: FieldProps & { offered: readonly (readonly [Value, ReactNode])[] }) {
  const { field, problem } = useField(name);
  const chosen = field.value as readonly Value[];
  return (
    <fieldset aria-invalid={problem !== null}>
      <legend className="mb-1 text-quiet">{label}</legend>
      <div className={className}>
        {offered.map(([value, words]) => (
          <Tick
            key={value}
            className="gap-1.5"
            checked={chosen.includes(value)}
            onChecked={(on) =>
              field.onChange(
                offered
                  .map(([one]) => one)
                  .filter((one) => (one === value ? on : chosen.includes(one))),
              )
            }
          >
            {words}
          </Tick>
        ))}
      </div>
      {problem && <p className="text-missed">{problem}</p>}
    </fieldset>
  );
}

/** Minutes since midnight as they are read from a clock: `08:30`. */
export const clockWords = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** A time of day, kept in minutes since midnight. */
export function ClockField({ name, label, className }: FieldProps) {
  const { field, problem } = useField(name);
  return (
    <Label text={label} problem={problem} className={className}>
      <Input
        type="time"
        value={typeof field.value === 'number' ? clockWords(field.value) : ''}
        onBlur={field.onBlur}
        onChange={({ target }) => {
          const [hours, minutes] = target.value.split(':').map(Number);
          if (hours !== undefined && minutes !== undefined) field.onChange(hours * 60 + minutes);
        }}
      />
    </Label>
  );
}

/** A day and time on the lab’s clock, kept as a moment (ISO 8601). */
export function MomentInForm({ name, label }: { name: string; label: string }) {
  const { field, problem } = useField(name);
  const { toField, fromField } = useMomentField();
  const [typed, setTyped] = useState<string | null>(null);
  const stored = String(field.value ?? '');
  return (
    <Label text={label} problem={problem}>
      <MomentField
        label={label}
        value={typed ?? (stored === '' ? '' : toField(stored))}
        onValue={(text) => {
          setTyped(text);
          const moment = fromField(text);
          field.onChange(Number.isNaN(moment.getTime()) ? '' : moment.toISOString());
        }}
      />
    </Label>
  );
}
