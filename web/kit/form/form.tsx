'use client';

import type { ReactNode } from 'react';
import { type FieldValues, FormProvider } from 'react-hook-form';
import { Button } from '../button';
import { Problem } from '../page';
import { ClashPanel } from './clash-panel';
import { LeaveGuard } from './leave-guard';
import type { LabForm } from './use-lab-form';

/** A form with its fields, what is wrong with it as a whole, and the one act that keeps it. */
export function Form<Values extends FieldValues>({
  of,
  label,
  act,
  names = {},
  className = 'space-y-3',
  disabled = false,
  hidesAct = false,
  look = 'primary',
  children,
  beside,
}: {
  of: LabForm<Values>;
  /** Said to a screen reader. */
  label?: string;
  /** Words on the button. */
  act: string;
  /** Names of the fields, for what two people both changed. */
  names?: Readonly<Record<string, string>>;
  className?: string;
  disabled?: boolean;
  /** Nothing is typed that could be kept. */
  hidesAct?: boolean;
  look?: 'primary' | 'plain';
  children: ReactNode;
  /** Further acts beside the button. */
  beside?: ReactNode;
}) {
  const { form, onSubmit, ref, busy, problem, clashes, settle, restored, forget, kept, warm } = of;
  const { isDirty, isSubmitting } = form.formState;
  return (
    <FormProvider {...form}>
      <form
        ref={ref}
        onSubmit={onSubmit}
        onFocusCapture={warm}
        onPointerEnter={warm}
        aria-label={label}
        className={className}
        noValidate
      >
        {restored && (
          <p role="status" className="flex flex-wrap items-center gap-2 text-quiet">
            What you typed earlier and did not keep is back.
            <Button look="bare" onClick={forget}>
              Begin anew
            </Button>
          </p>
        )}
        {children}
        {problem && <Problem>{problem}</Problem>}
        {clashes && clashes.length > 0 && (
          <ClashPanel clashes={clashes} names={names} onSettle={settle} />
        )}
        {!hidesAct && (
          <div className="flex flex-wrap gap-2">
            <Button type="submit" look={look} disabled={busy || disabled}>
              {act}
            </Button>
            {beside}
          </div>
        )}
        {kept && <LeaveGuard when={isDirty && !isSubmitting && !busy} />}
      </form>
    </FormProvider>
  );
}
