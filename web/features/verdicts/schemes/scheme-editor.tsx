'use client';

import type { ScopedScheme } from '@dusk-tally/lab/verdicts';
import { useRouter } from 'next/navigation';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { say } from '@/kit/say';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, TextField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { saveSchemeAct } from './acts';
import { usualLimit } from './condition-words';
import { GradeFields } from './grade-fields';
import { TrialView } from './trial-view';

/** All grades, best first; the last one stays the last. */
function Grades() {
  const { control } = useFormContext();
  const { fields, insert, remove, move } = useFieldArray({ control, name: 'scheme.grades' });
  const last = fields.length - 1;
  return (
    <div className="space-y-2">
      {fields.map(({ id }, at) => (
        <GradeFields
          key={id}
          path={`scheme.grades.${at}`}
          at={at}
          last={last}
          move={(to) => move(at, to)}
          remove={() => remove(at)}
        />
      ))}
      {fields.length < 12 && (
        <Button
          onClick={() =>
            insert(last, { name: '', note: '', conditions: [usualLimit('stateOfHealth')] })
          }
        >
          Another grade above the last
        </Button>
      )}
    </div>
  );
}

/** Blocks no scheme lifts: what such a cell is at best. */
function Blocks() {
  const names = (useWatch({ name: 'scheme.grades' }) as { name: string }[]).map((one) => one.name);
  const offered = [...new Set(names)].filter((name) => name !== '');
  return (
    <fieldset className="panel p-3">
      <legend className="px-1 font-semibold">What no scheme lifts</legend>
      <div className="grid gap-3 sm:grid-cols-2">
        {(
          [
            ['belowOneVolt', 'Below 1.0 V once: at best'],
            ['dangerous', 'Heater, leak, swollen to stop: it is'],
          ] as const
        ).map(([key, label]) => (
          <ChoiceField key={key} name={`scheme.atBest.${key}`} label={label}>
            {offered.map((name) => (
              <Option key={name} value={name}>
                {name}
              </Option>
            ))}
          </ChoiceField>
        ))}
      </div>
    </fieldset>
  );
}

/** Writes a scheme, and shows beside it what it would do. */
export function SchemeEditor({
  from,
  scope,
  seen,
  scopeWords,
}: {
  /** What it starts from. */
  from: ScopedScheme;
  scope: string;
  /** Version of this scope that was seen; 0 for none. */
  seen: number;
  scopeWords: string;
}) {
  const router = useRouter();
  const form = useLabForm({
    schema: 'schemeInput',
    first: {
      scope,
      seen,
      scheme: {
        name: from.name,
        grades: from.grades.map(({ name, note, conditions }) => ({
          name,
          note: note ?? '',
          conditions,
        })),
        atBest: from.atBest,
        tooCloseIsEnough: from.tooCloseIsEnough,
      },
      reason: '',
    },
    act: saveSchemeAct,
    keepAs: `scheme ${scope}`,
    done: ({ version }) => {
      say(`Kept as version ${version}; every cell of it is graded anew.`);
      router.push('/lab/grades');
    },
  });
  return (
    <Form of={form} label={`Grades for ${scopeWords}`} act="Keep it and grade anew" hidesAct>
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,30rem)]">
        <div className="space-y-3">
          <TextField name="scheme.name" label="Name of the scheme" className="max-w-sm" />
          <Grades />
          <Blocks />
          <TickField
            name="scheme.tooCloseIsEnough"
            label="Too close to call is enough for a grade (the buyer carries the doubt)"
          />
        </div>
        <div className="space-y-3 lg:sticky lg:top-4">
          <TrialView scope={scope} />
          <TextField name="reason" label="Why" />
          <Button type="submit" look="primary" disabled={form.busy}>
            Keep it and grade anew
          </Button>
        </div>
      </div>
    </Form>
  );
}
