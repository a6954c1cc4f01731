'use client';

import { Check, Minus } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { type ReactNode, useId } from 'react';

/** A box to tick, with its words; the whole line can be pressed. */
export function Tick({
  checked,
  onChecked,
  children,
  className = '',
  name,
  label,
  disabled = false,
}: {
  checked: boolean | 'some';
  onChecked: (checked: boolean) => void;
  children?: ReactNode;
  className?: string;
  /** Handed over with a form by this name, as `on`. */
  name?: string;
  /** Said to a screen reader where it has no words. */
  label?: string;
  disabled?: boolean;
}) {
  const id = useId();
  const box = (
    <Checkbox.Root
      id={id}
      name={name}
      aria-label={label}
      disabled={disabled}
      checked={checked === 'some' ? 'indeterminate' : checked}
      onCheckedChange={(next) => onChecked(next === true)}
      className="grid size-[1.15rem] shrink-0 place-items-center rounded-[3px] border border-strong-rule bg-raised data-[state=checked]:border-ember data-[state=checked]:bg-ember data-[state=checked]:text-on-ember data-[state=indeterminate]:text-ember disabled:opacity-50"
    >
      <Checkbox.Indicator>
        {checked === 'some' ? <Minus size={13} /> : <Check size={13} strokeWidth={3} />}
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
  if (children === undefined) return box;
  return (
    <span className={`flex items-center gap-2 ${className}`}>
      {box}
      <label htmlFor={id} className="cursor-pointer">
        {children}
      </label>
    </span>
  );
}
