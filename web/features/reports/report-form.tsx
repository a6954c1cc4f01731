'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState, useTransition } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { parseSubset } from '@/kit/subset';
import { issueReportAct } from './acts';

interface Choice {
  id: number;
  number: string;
  tested: boolean;
  grade: string | null;
}

/** Chooses cells and issues the buyer's report. */
export function ReportForm({
  lotId,
  cells,
  mayIssue,
}: {
  lotId: number;
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
  const chosen = useMemo(() => {
    const tested = cells.filter(
      (cell) =>
        cell.tested && (grades.size === 0 || (cell.grade !== null && grades.has(cell.grade))),
    );
    if (text.trim() === '') return tested;
    const wanted = parseSubset(
      text,
      cells.map((cell) => cell.number),
    );
    return cells.filter(
      (cell) =>
        wanted.has(cell.number) &&
        (grades.size === 0 || (cell.grade !== null && grades.has(cell.grade))),
    );
  }, [cells, text, grades]);
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
      <label className="block max-w-md">
        <span className="mb-1 block text-quiet">Customer</span>
        <input
          className="field"
          value={customer}
          onChange={(event) => setCustomer(event.target.value)}
        />
      </label>
      <label className="block max-w-md">
        <span className="mb-1 block text-quiet">Cells</span>
        <input
          className="field"
          placeholder="all tested, or such as 3, 17, 20-30"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {names.length > 1 && (
        <fieldset>
          <legend className="mb-1 text-quiet">Only of grade</legend>
          <div className="flex flex-wrap gap-4">
            {names.map((name) => (
              <label key={name} className="inline-flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-(--ember)"
                  checked={grades.has(name)}
                  onChange={(event) =>
                    setGrades((now) => {
                      const next = new Set(now);
                      if (event.target.checked) next.add(name);
                      else next.delete(name);
                      return next;
                    })
                  }
                />
                {name}
              </label>
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
