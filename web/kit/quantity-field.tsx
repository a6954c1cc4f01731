'use client';

import { parseQuantity, STORED_UNIT, type TypedQuantity } from '@dusk-tally/core/units';
import {
  type InputHTMLAttributes,
  type ReactNode,
  useEffect,
  useId,
  useRef,
  useState,
} from 'react';
import { Button } from './button';
import { Input, Label } from './form-parts';

/** How long after leaving a field what was understood is said, ms. */
const SOON_MS = 250;

type Rest = Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'inputMode'>;

const HEAD_UNITS: Readonly<Record<string, TypedQuantity>> = {
  ...(Object.fromEntries(
    Object.entries(STORED_UNIT).map(([quantity, unit]) => [unit, quantity]),
  ) as Record<string, TypedQuantity>),
  // A length of a cable is stored in m, and so is nothing else; empty is no unit at all.
  '': 'plain',
};

/** What a field holds by its name, which ends in the unit: `Cut-off / V`, `Mass, within ± %`. */
export function quantityOfHead(head: string): TypedQuantity {
  const unit = / \/ (\S+?),?$/.exec(head)?.[1] ?? (head.trim().endsWith('%') ? '%' : '');
  return HEAD_UNITS[unit] ?? 'plain';
}

/** What is said beside a field: what was understood, asked or expected. */
interface Said {
  text: string;
  tone: 'understood' | 'wrong';
  /** Values it may have been, to press. */
  either?: readonly [number, number];
}

/** A unit a field shows its number in, where it is not the stored one. */
export interface ShownIn {
  unit: string;
  /** Stored over shown: 0.001 where mA are shown and A are stored. */
  scale: number;
}

/** A bare number with the unit of its field. */
const withUnit = (plain: string, shownIn?: ShownIn): string =>
  shownIn && /^[\d.,\s+−-]+$/.test(plain) ? `${plain} ${shownIn.unit}` : plain;

/** A stored number in the unit of its field, without the noise of halves of bits. */
export const inUnit = (value: number, shownIn?: ShownIn): number =>
  shownIn ? Number((value / shownIn.scale).toPrecision(12)) : value;

/** What is kept of a typed number: the number, null for nothing, the text where it is none. */
export function numberTyped(
  text: string,
  quantity: TypedQuantity,
  shownIn?: ShownIn,
): number | string | null {
  const plain = text.trim();
  if (plain === '') return null;
  const parsed = parseQuantity(withUnit(plain, shownIn), quantity);
  return parsed.ok && parsed.doubt === undefined ? parsed.value : text;
}

/** What was typed as it is kept, and what is said of it. */
export function understand(
  text: string,
  quantity: TypedQuantity,
  shownIn?: ShownIn,
): { kept: string; said: Said | null } {
  const plain = text.trim();
  if (plain === '') return { kept: '', said: null };
  const parsed = parseQuantity(withUnit(plain, shownIn), quantity);
  if (!parsed.ok) return { kept: text, said: { text: parsed.message, tone: 'wrong' } };
  if (parsed.doubt !== undefined)
    return {
      kept: text,
      said: { text: parsed.doubt, tone: 'wrong', either: [parsed.value, parsed.otherwise!] },
    };
  const kept = String(inUnit(parsed.value, shownIn));
  const isAsTyped =
    (parsed.unitTyped === null || shownIn !== undefined) && Number(plain) === Number(kept);
  if (isAsTyped || plain === kept) return { kept: plain, said: null };
  const unit = shownIn?.unit ?? STORED_UNIT[quantity];
  return {
    kept,
    said: { text: `${plain} is ${kept}${unit && ` ${unit}`}`, tone: 'understood' },
  };
}

/**
 * One number, with its unit or without: `3120 mAh`, `0,0042 ohm`, `1,234.5`. On leaving it stands in
 * the stored unit, and what was understood is said; what may be two values is asked.
 */
export function NumberInput({
  quantity,
  text,
  onText,
  onBlur,
  onKeyDown,
  className = '',
  shownIn,
  ...rest
}: Rest & {
  quantity: TypedQuantity;
  text: string;
  onText: (text: string) => void;
  shownIn?: ShownIn;
}) {
  const [said, setSaid] = useState<Said | null>(null);
  const note = useId();
  const latest = useRef(text);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    latest.current = text;
  }, [text]);
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  /**
   * The text at once, so that whatever is pressed next takes it as it is kept; what is said a moment
   * later, so that it does not move what is being pressed.
   */
  const settle = () => {
    const { kept, said: next } = understand(text, quantity, shownIn);
    if (kept !== text) onText(kept);
    // What was understood stays said until something else is typed.
    if (next === null) return;
    latest.current = kept;
    timer.current = setTimeout(() => {
      if (latest.current === kept) setSaid(next);
    }, SOON_MS);
  };
  return (
    <>
      <Input
        autoComplete="off"
        {...rest}
        inputMode={quantity === 'count' ? 'numeric' : 'decimal'}
        className={className}
        aria-invalid={said?.tone === 'wrong' || undefined}
        aria-describedby={said ? note : undefined}
        value={text}
        onChange={(event) => {
          setSaid(null);
          onText(event.target.value);
        }}
        onBlur={(event) => {
          settle();
          onBlur?.(event);
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter') settle();
          onKeyDown?.(event);
        }}
      />
      {said && (
        <span
          id={note}
          role="status"
          className={`mt-0.5 flex flex-wrap items-center gap-1 text-[0.8rem] ${said.tone === 'wrong' ? 'text-missed' : 'text-quiet'}`}
        >
          {said.text}
          {said.either?.map((value) => (
            <Button
              key={value}
              className="min-h-7 px-2 py-0"
              onClick={() => {
                setSaid(null);
                onText(String(value));
              }}
            >
              {value}
            </Button>
          ))}
        </span>
      )}
    </>
  );
}

/** A number with its name above. */
export function QuantityField({
  label,
  className,
  ...rest
}: Parameters<typeof NumberInput>[0] & { label: ReactNode }) {
  return (
    <Label text={label} className={className}>
      <NumberInput {...rest} />
    </Label>
  );
}
