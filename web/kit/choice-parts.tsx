import { ChevronDown } from 'lucide-react';
import { Children, isValidElement, type ReactElement, type ReactNode } from 'react';

/** Radix keeps the empty text for “nothing chosen”; a choice that means nothing has this inside. */
const NOTHING = '\u0000';
export const inside = (value: string | number) => (value === '' ? NOTHING : String(value));
export const outside = (value: string) => (value === NOTHING ? '' : value);

export const CHOICE =
  'field flex min-h-9 items-center justify-between gap-2 text-left disabled:opacity-50';

/** What is chosen, and that there is a list. */
export const ChoiceFace = ({ children }: { children: ReactNode }) => (
  <>
    <span className="truncate">{children}</span>
    <ChevronDown size={15} className="shrink-0 text-quiet" aria-hidden />
  </>
);

export interface OptionProps {
  /** Absent: its words are its value. */
  value?: string | number;
  disabled?: boolean;
  children: ReactNode;
}

/** One of the things a Choice offers; drawn by the list. */
export const Option = (_: OptionProps): ReactNode => null;

export interface ChoiceProps {
  value: string | number;
  onValue: (value: string) => void;
  /** Options, in fragments and lists too. */
  children: ReactNode;
  className?: string;
  /** Said to a screen reader where no label stands around it. */
  label?: string;
  disabled?: boolean;
}

const textOf = (children: ReactNode): string =>
  Children.toArray(children)
    .map((child) => (typeof child === 'string' || typeof child === 'number' ? child : ''))
    .join('');

/** What an option stands for, as Radix keeps it. */
export const valueOf = ({ value, children }: OptionProps): string =>
  inside(value ?? textOf(children));

/** Options among children, those in fragments and lists too. */
export function optionsIn(children: ReactNode): ReactElement<OptionProps>[] {
  return Children.toArray(children).flatMap((child) => {
    if (!isValidElement(child)) return [];
    if (child.type === Option) return [child as ReactElement<OptionProps>];
    return optionsIn((child.props as { children?: ReactNode }).children);
  });
}
