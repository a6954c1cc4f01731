import type { ReactNode } from 'react';

/** A field with its name above. */
export function Label({ text, children }: { text: string; children: ReactNode }) {
  return (
    <label className="block">
      <span className="mb-1 block text-quiet">{text}</span>
      {children}
    </label>
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
