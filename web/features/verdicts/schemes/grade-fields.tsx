'use client';

import type { Condition, ConditionKind } from '@dusk-tally/core/verdicts';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { ChoiceField, NumberField, TextField, useField } from '@/kit/form/fields';
import { Label } from '@/kit/form-parts';
import {
  CONDITION_KINDS,
  hasLimit,
  kindWords,
  LEVEL_WORDS,
  limitUnit,
  shownIn,
  sideWords,
  usualLimit,
} from './condition-words';

/** What a condition is on; a new one starts from its usual limit. */
function KindField({ path, taken }: { path: string; taken: ReadonlySet<ConditionKind> }) {
  const { setValue } = useFormContext();
  const { field, problem } = useField(`${path}.kind`);
  const kind = field.value as ConditionKind;
  return (
    <Label text="What" problem={problem} className="min-w-0 flex-1 basis-56">
      <Choice
        value={kind}
        onValue={(next) => setValue(path, usualLimit(next as ConditionKind), { shouldDirty: true })}
      >
        {CONDITION_KINDS.filter((one) => one === kind || !taken.has(one)).map((one) => (
          <Option key={one} value={one}>
            {kindWords(one)}
          </Option>
        ))}
      </Choice>
    </Label>
  );
}

function ConditionFields({
  path,
  taken,
  remove,
}: {
  path: string;
  taken: ReadonlySet<ConditionKind>;
  remove: () => void;
}) {
  const kind = useWatch({ name: `${path}.kind` }) as ConditionKind;
  return (
    <li className="flex flex-wrap items-end gap-2">
      <KindField path={path} taken={taken} />
      {hasLimit(kind) && (
        <NumberField
          key={kind}
          name={`${path}.limit`}
          quantity={kind === 'deepestV' ? 'voltageV' : shownIn(kind) ? 'share' : 'plain'}
          shownIn={shownIn(kind)}
          label={`${sideWords(kind)} / ${limitUnit(kind)}`}
          className="w-32"
        />
      )}
      {kind === 'worstFinding' && (
        <ChoiceField name={`${path}.limit`} label="may be" className="w-44">
          {Object.entries(LEVEL_WORDS).map(([level, words]) => (
            <Option key={level} value={level}>
              {words}
            </Option>
          ))}
        </ChoiceField>
      )}
      <Button look="bare" aria-label={`Without ${kindWords(kind)}`} onClick={remove}>
        <X size={16} aria-hidden />
      </Button>
    </li>
  );
}

/** Conditions of one grade. */
function Conditions({ path }: { path: string }) {
  const { control } = useFormContext();
  const { fields, append, remove } = useFieldArray({ control, name: `${path}.conditions` });
  const conditions = (useWatch({ name: `${path}.conditions` }) ?? []) as Condition[];
  const taken = new Set(conditions.map(({ kind }) => kind));
  const next = CONDITION_KINDS.find((kind) => !taken.has(kind));
  return (
    <>
      <ul className="mt-2 space-y-2">
        {fields.map(({ id }, i) => (
          <ConditionFields
            key={id}
            path={`${path}.conditions.${i}`}
            taken={taken}
            remove={() => remove(i)}
          />
        ))}
      </ul>
      {next && (
        <Button look="bare" className="mt-1 underline" onClick={() => append(usualLimit(next))}>
          And another condition
        </Button>
      )}
    </>
  );
}

/** One grade: its name, what it asks for, and its place. */
export function GradeFields({
  path,
  at,
  last,
  move,
  remove,
}: {
  path: string;
  at: number;
  /** Position of the last grade, which takes what is left. */
  last: number;
  move: (to: number) => void;
  remove: () => void;
}) {
  const name = (useWatch({ name: `${path}.name` }) as string) || `grade ${at + 1}`;
  return (
    <fieldset className="panel p-3">
      <legend className="sr-only">{name}</legend>
      <div className="flex flex-wrap items-end gap-2">
        <TextField
          name={`${path}.name`}
          label={at === 0 ? 'Best grade' : 'Then'}
          className="w-44"
        />
        <TextField
          name={`${path}.note`}
          label="Said beside it"
          className="min-w-0 flex-1 basis-40"
        />
        {at < last && (
          <span className="flex">
            <Button
              look="bare"
              aria-label={`${name} one up`}
              disabled={at === 0}
              onClick={() => move(at - 1)}
            >
              <ArrowUp size={16} aria-hidden />
            </Button>
            <Button
              look="bare"
              aria-label={`${name} one down`}
              disabled={at >= last - 1}
              onClick={() => move(at + 1)}
            >
              <ArrowDown size={16} aria-hidden />
            </Button>
            <Button look="bare" aria-label={`No ${name}`} disabled={last < 2} onClick={remove}>
              <X size={16} aria-hidden />
            </Button>
          </span>
        )}
      </div>
      {at < last ? (
        <Conditions path={path} />
      ) : (
        <p className="mt-2 text-quiet">Whatever is left.</p>
      )}
    </fieldset>
  );
}
