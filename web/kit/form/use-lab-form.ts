'use client';

import type * as Inputs from '@dusk-tally/lab/inputs';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import {
  type DefaultValues,
  type FieldValues,
  type Path,
  type Resolver,
  useForm,
  type UseFormReturn,
} from 'react-hook-form';
import type { z } from 'zod';
import type { Outcome, Refusal } from '@/lib/outcome';
import { LOST, type Patience, useAct } from '../use-act';
import { type Clash, mergeConflict } from './conflict';
import { useKeptValues } from './use-kept-values';

/** Schemas of acts by their names. */
type Schemas = {
  [
    Name in keyof typeof Inputs as (typeof Inputs)[Name] extends z.ZodType<FieldValues, FieldValues>
      ? Name
      : never
  ]: (typeof Inputs)[Name];
};
/** Name of the schema of an act. */
type SchemaName = keyof Schemas;
/** A schema, or the one of that name. */
type SchemaOf<S> = S extends SchemaName ? Schemas[S] : S;
/** What the fields of a form on that schema hold. */
type ValuesOf<S> =
  SchemaOf<S> extends z.ZodType<FieldValues, infer I extends FieldValues> ? I : never;

/** Fields as a form begins with them: what is to be typed or chosen yet is null. */
type Blank<Values> = { [Name in keyof Values]: Values[Name] | null };

/** Schemas, and what runs them: not with the page, but once somebody turns to a form. */
const checking = () =>
  Promise.all([import('@hookform/resolvers/zod'), import('@dusk-tally/lab/inputs')]);

/** A form as its parts need it. */
export interface LabForm<Values extends FieldValues> {
  form: UseFormReturn<Values>;
  /** To be given to the form element, which must be told by `ref` to focus what is wrong. */
  onSubmit: (event?: FormEvent) => void;
  ref: React.RefObject<HTMLFormElement | null>;
  busy: boolean;
  problem: string | null;
  /** What both people changed; null unless somebody else was faster. */
  clashes: readonly Clash[] | null;
  settle: (name: string, take: 'mine' | 'theirs') => void;
  /** Whether what was typed on an earlier visit is back. */
  restored: boolean;
  /** Forgets what was typed. */
  forget: () => void;
  /** Whether what is typed is kept in this browser, and asked about on leaving. */
  kept: boolean;
  /** Gets ready what checks the fields. */
  warm: () => void;
}

/** Checks fields by a schema that is fetched when it is needed. */
const checkedBy =
  <Values extends FieldValues>(schema: string | z.ZodType): Resolver<Values> =>
  async (values, context, options) => {
    const [{ zodResolver }, inputs] = await checking();
    const real =
      typeof schema === 'string'
        ? (inputs as unknown as Record<string, z.ZodType>)[schema]
        : schema;
    // What is sent is what was typed; the server turns it into what is stored.
    const check = zodResolver(real as never, undefined, {
      raw: true,
    }) as unknown as Resolver<Values>;
    return check(values, context, options);
  };

/**
 * A form on the schema of the act itself: screen and server refuse in the same words. The first
 * wrong field has the focus; a refusal of the server lands on its field; where somebody else was
 * faster both versions are shown, field by field.
 * @param schema of the act, by its name in `lab/inputs`; or one of its own.
 * @param patience for acts that may be sent again.
 * @param keepAs name under which what is typed outlives a reload; without it nothing is kept.
 */
export function useLabForm<
  const Schema extends SchemaName | z.ZodType<FieldValues, FieldValues>,
  Result,
>({
  schema,
  first: blank,
  act,
  done,
  keepAs,
  storesNothing = false,
  patience,
}: {
  schema: Schema;
  first: Blank<ValuesOf<Schema>>;
  /** @param key of the press, to be sent with it. */
  act: (values: ValuesOf<Schema>, key: string) => Promise<Outcome<Result>>;
  done?: (result: Result) => void;
  keepAs?: string;
  /** The act only looks at what is typed: it stays, through a reload too. */
  storesNothing?: boolean;
  patience?: Patience;
}): LabForm<ValuesOf<Schema>> {
  type Values = ValuesOf<Schema>;
  // What is still blank is refused by the schema before it reaches the act.
  const first = blank as Values;
  const ref = useRef<HTMLFormElement | null>(null);
  /** Whether the first wrong field, in the order of the page, is to have the focus once it is marked. */
  const wantsFocus = useRef(false);
  const form = useForm<Values>({
    resolver: checkedBy(schema),
    defaultValues: blank as DefaultValues<Values>,
    shouldFocusError: false,
  });
  const { run, busy, problem, setProblem } = useAct(patience);
  const [clashes, setClashes] = useState<readonly Clash[] | null>(null);
  /** The fields as they were loaded, or stored last. */
  const clean = useRef<Values>(first);
  const loadedFrom = useRef(JSON.stringify(first));
  const { restored, forget, sending } = useKeptValues(keepAs, form, clean, setClashes);
  const become = (values: Values) => {
    clean.current = values;
    form.reset(values);
  };
  const { isDirty, errors } = form.formState;
  useEffect(() => {
    const wrong = wantsFocus.current
      ? ref.current?.querySelector<HTMLElement>('[aria-invalid="true"]')
      : null;
    if (!wrong) return;
    wantsFocus.current = false;
    wrong.focus();
    // Read again whenever a field is marked.
  }, [errors]);
  const loaded = JSON.stringify(first);
  useEffect(() => {
    // Another version was loaded: a form nobody typed in shows it.
    if (isDirty || loadedFrom.current === loaded) return;
    loadedFrom.current = loaded;
    become(first);
    // What was loaded is told by its content: the same fields again are no other version.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [loaded, isDirty, form]);

  const refused = (refusal: Refusal): boolean => {
    const { code, field, message, current } = refusal;
    if (code === 'conflict' && typeof current === 'object' && current !== null) {
      const { merged, clashes: asked } = mergeConflict(
        clean.current as Record<string, unknown>,
        form.getValues() as Record<string, unknown>,
        current as Record<string, unknown>,
      );
      clean.current = { ...clean.current, ...pick(current, Object.keys(clean.current as object)) };
      for (const [name, value] of Object.entries(merged))
        form.setValue(name as Path<Values>, value as never, { shouldDirty: true });
      setClashes(asked);
      return false;
    }
    if (!field || form.getFieldState(field as Path<Values>).invalid) return false;
    if (!(field.split('.')[0]! in (form.getValues() as object))) return false;
    form.setError(field as Path<Values>, { type: 'server', message });
    wantsFocus.current = true;
    return true;
  };
  const submit = form.handleSubmit(
    (values) =>
      run(
        (key) => sending(() => act(values as Values, key)),
        (result) => {
          setClashes(null);
          if (!storesNothing) {
            forget();
            // What is stored now is nothing unsaved any more.
            become(form.getValues() as Values);
          }
          done?.(result);
        },
        refused,
      ),
    () => void (wantsFocus.current = true),
  );
  return {
    form,
    ref,
    busy,
    problem,
    clashes,
    restored,
    kept: keepAs !== undefined && !storesNothing,
    warm,
    onSubmit: (event) => {
      event?.preventDefault();
      setProblem(null);
      // Without a connection what checks the fields may not be there.
      submit(event).catch(() => setProblem(LOST));
    },
    settle: (name, take) => {
      const clash = clashes?.find((one) => one.name === name);
      if (clash) form.setValue(name as Path<Values>, clash[take] as never, { shouldDirty: true });
    },
    forget: () => {
      forget();
      become(first);
    },
  };
}

/** Fetched once, and then there. */
const warm = () => void checking().catch(() => undefined);

const pick = (from: object, names: readonly string[]) =>
  Object.fromEntries(Object.entries(from).filter(([name]) => names.includes(name)));
