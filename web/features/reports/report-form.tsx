'use client';

import { readCells } from '@dusk-tally/core/arrivals';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { CellsField } from '@/kit/cells-field';
import { Option } from '@/kit/choice';
import { ChoiceField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Tick } from '@/kit/tick';
import { issueReportAct } from './acts';

interface Choice {
  id: number;
  number: string;
  tested: boolean;
  grade: string | null;
}

/** Ticks of the grades a report is only of; none ticked is all. */
function GradeTicks({
  names,
  grades,
  onGrades,
}: {
  names: readonly string[];
  grades: ReadonlySet<string>;
  onGrades: (grades: Set<string>) => void;
}) {
  if (names.length < 2) return null;
  return (
    <fieldset>
      <legend className="mb-1 text-quiet">Only of grade</legend>
      <div className="flex flex-wrap gap-4">
        {names.map((name) => (
          <Tick
            key={name}
            checked={grades.has(name)}
            onChecked={(on) =>
              onGrades(new Set(on ? [...grades, name] : [...grades].filter((one) => one !== name)))
            }
            className="gap-1.5"
          >
            {name}
          </Tick>
        ))}
      </div>
    </fieldset>
  );
}

/** Which cells are chosen, in words. */
function ChosenWords({ chosen, isByNumber }: { chosen: readonly Choice[]; isByNumber: boolean }) {
  const named = chosen.slice(0, 8).map((cell) => cell.number);
  const more = chosen.length > named.length ? ` and ${chosen.length - named.length} more` : '';
  return (
    <>
      <p className="text-quiet" role="status">
        {chosen.length} {chosen.length === 1 ? 'cell' : 'cells'}
        {chosen.length > 0 && `: ${named.join(', ')}${more}`}.
      </p>
      {chosen.length === 0 && (
        <p className="text-doubt">
          Nothing to issue:{' '}
          {isByNumber
            ? 'no cell has one of these numbers and grades'
            : 'no cell of this choice is tested'}
          .
        </p>
      )}
    </>
  );
}

/** Cells chosen by number and grade; all tested where nothing is chosen. */
function useChosen(cells: readonly Choice[]) {
  const [text, setText] = useState('');
  const [grades, setGrades] = useState<ReadonlySet<string>>(new Set());
  const read = useMemo(() => readCells(text, cells), [text, cells]);
  const chosen = useMemo(() => {
    const wanted = new Set(read.ids);
    const isByNumber = text.trim() !== '';
    return cells.filter(
      (cell) =>
        (isByNumber ? wanted.has(cell.id) : cell.tested) &&
        (grades.size === 0 || (cell.grade !== null && grades.has(cell.grade))),
    );
  }, [cells, text, read, grades]);
  return { text, setText, grades, setGrades, read, chosen };
}

/** Chooses cells and issues the buyer's report. */
export function ReportForm({
  lotId,
  code,
  cells,
  mayIssue,
  language,
}: {
  lotId: number;
  code: string;
  cells: Choice[];
  mayIssue: boolean;
  /** What the lab’s reports are written in. */
  language: 'en' | 'de';
}) {
  const router = useRouter();
  const { text, setText, grades, setGrades, read, chosen } = useChosen(cells);
  const names = useMemo(() => [...new Set(cells.flatMap((cell) => cell.grade ?? []))], [cells]);
  const form = useLabForm({
    schema: 'reportInput',
    first: { lotId, cellIds: [] as number[], customer: '', language },
    act: issueReportAct,
    done: ({ number }) => router.push(`/reports/${number}`),
  });
  const { setValue } = form.form;
  useEffect(
    () =>
      setValue(
        'cellIds',
        chosen.map(({ id }) => id),
      ),
    [setValue, chosen],
  );
  return (
    <Form
      of={form}
      label="A report"
      act="Issue the report"
      hidesAct={!mayIssue}
      disabled={chosen.length === 0}
      className="panel max-w-3xl space-y-4 p-5"
    >
      <div className="grid max-w-xl gap-3 sm:grid-cols-[1fr_10rem]">
        <TextField name="customer" label="Customer" />
        <ChoiceField name="language" label="Language">
          <Option value="en">English</Option>
          <Option value="de">German</Option>
        </ChoiceField>
      </div>
      <CellsField
        className="max-w-md"
        label="Cells"
        lot={code}
        cells={cells}
        read={read}
        text={text}
        onText={setText}
        otherwise="all tested, or "
      />
      <GradeTicks names={names} grades={grades} onGrades={setGrades} />
      <ChosenWords chosen={chosen} isByNumber={text.trim() !== ''} />
      {!mayIssue && <p className="text-quiet">A lead or admin can issue reports.</p>}
      <p className="text-[0.87rem] text-quiet">
        Issuing freezes every figure as it stands. A report never changes afterwards; later
        measurements need a new one.
      </p>
    </Form>
  );
}
