'use client';

import type { CellGrading } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabMoment } from '@/kit/lab-time';
import { ReasonForm } from '@/kit/reason-form';
import { AT_ONCE, offerUndoOf } from '@/kit/undo-toast';
import { decideGradeAct, takeBackDecisionAct } from './acts';

function DecisionForm({
  cellId,
  grades,
  done,
}: {
  cellId: number;
  grades: readonly string[];
  done: () => void;
}) {
  const form = useLabForm({
    schema: 'decisionInput',
    first: { cellId, grade: grades[0] ?? '', reason: '' },
    act: decideGradeAct,
    done: ({ id }) => {
      offerUndoOf(`${form.form.getValues('grade')} by decision.`, () =>
        takeBackDecisionAct({ id, reason: AT_ONCE }),
      );
      done();
    },
  });
  return (
    <Form
      of={form}
      label="A grade by decision"
      act="Decide it"
      beside={
        <Button look="bare" onClick={done}>
          Leave it
        </Button>
      }
    >
      <div className="flex flex-wrap gap-3">
        <ChoiceField name="grade" label="Grade" className="w-44">
          {grades.map((grade) => (
            <Option key={grade} value={grade}>
              {grade}
            </Option>
          ))}
        </ChoiceField>
        <TextField
          name="reason"
          label="Why; it is said on its reports"
          className="min-w-0 flex-1 basis-72"
        />
      </div>
    </Form>
  );
}

/** Grades people decided of a cell, for good, and the deciding. */
export function GradeDecisions({
  cellId,
  grading: { scheme, grades, decisions },
  mayLead,
}: {
  cellId: number;
  grading: CellGrading;
  mayLead: boolean;
}) {
  const [isOpen, setOpen] = useState(false);
  const standing = decisions.find(({ takenBack }) => takenBack === null);
  return (
    <section aria-label="Grade" className="text-[0.87rem]">
      <p className="flex flex-wrap items-center gap-x-3 text-quiet">
        <span>
          Graded by{' '}
          <Link href="/lab/grades" className="underline">
            {scheme.name}, version {scheme.version}
          </Link>
          .
        </span>
        {mayLead && !standing && !isOpen && (
          <Button look="bare" className="px-1.5 underline" onClick={() => setOpen(true)}>
            Decide another grade
          </Button>
        )}
      </p>
      {isOpen && !standing && (
        <div className="panel mt-1 p-3">
          <DecisionForm cellId={cellId} grades={grades} done={() => setOpen(false)} />
        </div>
      )}
      <ul className="space-y-1">
        {decisions.map(({ id, grade, reason, who, at, takenBack }) => (
          <li key={id}>
            <LabMoment at={at} />: {grade} by decision of {who}: {reason}
            {takenBack ? (
              <span className="text-quiet">
                {' '}
                Taken back <LabMoment at={takenBack.at} /> by {takenBack.who}: {takenBack.why}
              </span>
            ) : (
              mayLead && (
                <ReasonForm
                  open="Take it back"
                  title={`Take back ${grade}`}
                  note="The scheme says the grade again. That it was decided stays to be read here."
                  does="Take it back"
                  act={(why, _form, key) => takeBackDecisionAct({ id, reason: why }, key)}
                />
              )
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
