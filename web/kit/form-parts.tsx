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

const Wiring = createContext<{ id?: string; problemId?: string }>({});

/** Id of the field a label stands over, for the part that is the field. */
export const useFieldId = (): string | undefined => useContext(Wiring).id;

/** What the part that is the field says to a screen reader: its id, and what is wrong with it. */
export function useFieldWiring() {
  const { id, problemId } = useContext(Wiring);
  return {
    id,
    'aria-invalid': problemId === undefined ? undefined : true,
    'aria-describedby': problemId,
  } as const;
}

/** A field with its name above, and what is wrong with it below. */
export function Label({
  text,
  problem = null,
  className = '',
  children,
}: {
  text: ReactNode;
  problem?: string | null;
  className?: string;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <div className={className}>
      <Name.Root htmlFor={id} className="mb-1 block text-quiet">
        {text}
      </Name.Root>
      <Wiring.Provider value={{ id, problemId: problem === null ? undefined : `${id}-problem` }}>
        {children}
      </Wiring.Provider>
      {problem !== null && (
        <p id={`${id}-problem`} role="alert" className="mt-0.5 text-[0.85rem] text-missed">
          {problem}
        </p>
      )}
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
  const wiring = useFieldWiring();
  return (
    <input
      ref={ref}
      {...wiring}
      {...rest}
      aria-invalid={rest['aria-invalid'] ?? wiring['aria-invalid']}
      aria-describedby={rest['aria-describedby'] ?? wiring['aria-describedby']}
      className={`field ${className}`}
    />
  );
}

/** Several lines of text. */
export function TextArea({ className = '', ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return <textarea {...useFieldWiring()} {...rest} className={`field ${className}`} />;
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
