'use client';

import { Check } from 'lucide-react';
import { Select } from 'radix-ui';
import {
  CHOICE,
  ChoiceFace,
  type ChoiceProps,
  inside,
  optionsIn,
  outside,
  valueOf,
} from './choice-parts';
import { useFieldWiring } from './form-parts';

/** A choice with its list, which is open when it first comes. */
export function ChoiceList({
  value,
  onValue,
  children,
  className = '',
  label,
  disabled = false,
}: ChoiceProps) {
  const wiring = useFieldWiring();
  const options = optionsIn(children);
  const chosen = options.find(({ props }) => valueOf(props) === inside(value));
  return (
    <Select.Root
      defaultOpen
      value={inside(value)}
      onValueChange={(next) => onValue(outside(next))}
      disabled={disabled}
    >
      <Select.Trigger {...wiring} aria-label={label} className={`${CHOICE} ${className}`}>
        <ChoiceFace>
          <Select.Value>{chosen?.props.children}</Select.Value>
        </ChoiceFace>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-[60] max-h-[min(22rem,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-md border border-strong-rule bg-raised p-1 shadow-xl"
        >
          <Select.Viewport>
            {options.map(({ props }) => (
              <Select.Item
                key={valueOf(props)}
                value={valueOf(props)}
                disabled={props.disabled ?? false}
                className="flex min-h-9 cursor-pointer items-center gap-2 rounded-sm py-1.5 pl-2 pr-4 outline-none data-[highlighted]:bg-ember-wash data-[disabled]:opacity-50"
              >
                <span className="w-4" aria-hidden>
                  <Select.ItemIndicator>
                    <Check size={14} />
                  </Select.ItemIndicator>
                </span>
                <Select.ItemText>{props.children}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
