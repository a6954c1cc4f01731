'use client';

import { Check, ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { Children, isValidElement, type ReactElement, type ReactNode } from 'react';
import { useFieldWiring } from './form-parts';

/** Radix keeps the empty text for “nothing chosen”; a choice that means nothing has this inside. */
const NOTHING = '\u0000';
const inside = (value: string | number) => (value === '' ? NOTHING : String(value));
const outside = (value: string) => (value === NOTHING ? '' : value);

interface OptionProps {
  /** Absent: its words are its value. */
  value?: string | number;
  disabled?: boolean;
  children: ReactNode;
}

/** One of the things a Choice offers. */
export function Option({ value, disabled = false, children }: OptionProps) {
  const own = value ?? textOf(children);
  return (
    <Select.Item
      value={inside(own)}
      disabled={disabled}
      className="flex min-h-9 cursor-pointer items-center gap-2 rounded-sm py-1.5 pl-2 pr-4 outline-none data-[highlighted]:bg-ember-wash data-[disabled]:opacity-50"
    >
      <span className="w-4" aria-hidden>
        <Select.ItemIndicator>
          <Check size={14} />
        </Select.ItemIndicator>
      </span>
      <Select.ItemText>{children}</Select.ItemText>
    </Select.Item>
  );
}

const textOf = (children: ReactNode): string =>
  Children.toArray(children)
    .map((child) => (typeof child === 'string' || typeof child === 'number' ? child : ''))
    .join('');

/** Options among children, those in fragments and lists too. */
function optionsIn(children: ReactNode): ReactElement<OptionProps>[] {
  return Children.toArray(children).flatMap((child) => {
    if (!isValidElement(child)) return [];
    if (child.type === Option) return [child as ReactElement<OptionProps>];
    return optionsIn((child.props as { children?: ReactNode }).children);
  });
}

/** One of several, from a list that opens: arrows, first letters, Enter, Esc. */
export function Choice({
  value,
  onValue,
  children,
  className = '',
  label,
  name,
  disabled = false,
}: {
  value: string | number;
  onValue: (value: string) => void;
  children: ReactNode;
  className?: string;
  /** Said to a screen reader where no label stands around it. */
  label?: string;
  /** Handed over with a form by this name. */
  name?: string;
  disabled?: boolean;
}) {
  const wiring = useFieldWiring();
  const chosen = optionsIn(children).find(
    ({ props }) => inside(props.value ?? textOf(props.children)) === inside(value),
  );
  return (
    <Select.Root
      value={inside(value)}
      onValueChange={(next) => onValue(outside(next))}
      disabled={disabled}
    >
      {name !== undefined && <input type="hidden" name={name} value={value} />}
      <Select.Trigger
        {...wiring}
        aria-label={label}
        className={`field flex min-h-9 items-center justify-between gap-2 text-left disabled:opacity-50 ${className}`}
      >
        <span className="truncate">
          <Select.Value>{chosen?.props.children}</Select.Value>
        </span>
        <Select.Icon asChild>
          <ChevronDown size={15} className="shrink-0 text-quiet" aria-hidden />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-[60] max-h-[min(22rem,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-md border border-strong-rule bg-raised p-1 shadow-xl"
        >
          <Select.Viewport>{children}</Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
