'use client';

import { Label as Name } from 'radix-ui';
import {
  createContext,
  type InputHTMLAttributes,
  type ReactNode,
  type Ref,
  type TextareaHTMLAttributes,
  useContext,
  useId,
} from 'react';

const FieldId = createContext<string | undefined>(undefined);

/** Id of the field a label stands over, for the part that is the field. */
export const useFieldId = (): string | undefined => useContext(FieldId);

/** A field with its name above. */
export function Label({
  text,
  className = '',
  children,
}: {
  text: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <div className={className}>
      <Name.Root htmlFor={id} className="mb-1 block text-quiet">
        {text}
      </Name.Root>
      <FieldId.Provider value={id}>{children}</FieldId.Provider>
    </div>
  );
}

/** Fields that belong together. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="panel p-5">
      <legend className="px-1.5 font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}

/** One line of text. */
export function Input({
  className = '',
  ref,
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & { ref?: Ref<HTMLInputElement> }) {
  const id = useFieldId();
  return <input ref={ref} id={id} {...rest} className={`field ${className}`} />;
}

/** Several lines of text. */
export function TextArea({ className = '', ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const id = useFieldId();
  return <textarea id={id} {...rest} className={`field ${className}`} />;
}

/** One line of text that offers what is known already; anything else may be typed. */
export function Suggesting({
  value,
  onValue,
  known,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'list'> & {
  value: string;
  onValue: (value: string) => void;
  known: readonly (string | { value: string; hint: string })[];
}) {
  const list = useId();
  return (
    <>
      <Input
        {...rest}
        list={list}
        value={value}
        onChange={(event) => onValue(event.target.value)}
      />
      <datalist id={list}>
        {known.map((one) =>
          typeof one === 'string' ? (
            <option key={one} value={one} />
          ) : (
            <option key={one.value} value={one.value}>
              {one.hint}
            </option>
          ),
        )}
      </datalist>
    </>
  );
}
