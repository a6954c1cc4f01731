'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState, useTransition } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { CellsField } from '@/kit/cells-field';
import { readCells } from '@dusk-tally/core/arrivals';
import { issueReportAct } from './acts';
import { Input, Label } from '@/kit/form-parts';
import { Tick } from '@/kit/tick';

interface Choice {
  id: number;
  number: string;
  tested: boolean;
  grade: string | null;
}

/** Chooses cells and issues the buyer's report. */
export function ReportForm({
  lotId,
  code,
  cells,
  mayIssue,
}: {
  lotId: number;
  code: string;
  cells: Choice[];
  mayIssue: boolean;
}) {
  const router = useRouter();
  const [customer, setCustomer] = useState('');
  const [text, setText] = useState('');
  const [grades, setGrades] = useState<Set<string>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, startTransition] = useTransition();
  const names = useMemo(() => [...new Set(cells.flatMap((cell) => cell.grade ?? []))], [cells]);
  const read = useMemo(() => readCells(text, cells), [text, cells]);
  const chosen = useMemo(() => {
    const tested = cells.filter(
      (cell) =>
        cell.tested && (grades.size === 0 || (cell.grade !== null && grades.has(cell.grade))),
    );
    if (text.trim() === '') return tested;
    const wanted = new Set(read.ids);
    return cells.filter(
      (cell) =>
        wanted.has(cell.id) &&
        (grades.size === 0 || (cell.grade !== null && grades.has(cell.grade))),
    );
  }, [cells, text, read, grades]);
  const issue = () =>
    startTransition(async () => {
      const outcome = await issueReportAct(
        lotId,
        chosen.map((cell) => cell.id),
        customer,
      );
      if (outcome.ok) router.push(`/reports/${outcome.data.number}`);
      else setProblem(outcome.message);
    });
  return (
    <form
      className="panel max-w-3xl space-y-4 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        issue();
      }}
    >
      <Label text="Customer" className="block max-w-md">
        <Input value={customer} onChange={(event) => setCustomer(event.target.value)} />
      </Label>
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
      {names.length > 1 && (
        <fieldset>
          <legend className="mb-1 text-quiet">Only of grade</legend>
          <div className="flex flex-wrap gap-4">
            {names.map((name) => (
              <Tick
                key={name}
                checked={grades.has(name)}
                onChecked={(on) =>
                  setGrades((now) => {
                    const next = new Set(now);
                    if (on) next.add(name);
                    else next.delete(name);
                    return next;
                  })
                }
                className="gap-1.5"
              >
                {name}
              </Tick>
            ))}
          </div>
        </fieldset>
      )}
      <p className="text-quiet" role="status">
        {chosen.length} {chosen.length === 1 ? 'cell' : 'cells'}
        {chosen.length > 0 &&
          `: ${chosen
            .slice(0, 8)
            .map((cell) => cell.number)
            .join(', ')}${chosen.length > 8 ? ` and ${chosen.length - 8} more` : ''}`}
        .
      </p>
      {problem && <Problem>{problem}</Problem>}
      {mayIssue && chosen.length === 0 && (
        <p className="text-doubt">
          Nothing to issue:{' '}
          {text.trim() === ''
            ? 'no cell of this choice is tested'
            : 'no cell has one of these numbers and grades'}
          .
        </p>
      )}
      {mayIssue ? (
        <Button look="primary" type="submit" disabled={busy || chosen.length === 0}>
          {busy ? 'Setting the report …' : 'Issue the report'}
        </Button>
      ) : (
        <p className="text-quiet">A lead or admin can issue reports.</p>
      )}
      <p className="text-[0.87rem] text-quiet">
        Issuing freezes every figure as it stands. A report never changes afterwards; later
        measurements need a new one.
      </p>
    </form>
  );
}
