'use client';

import { moveRunAct, setAsideAct } from './hold-actions';
import { ReasonForm } from '@/kit/reason-form';
import { Input, Label } from '@/kit/form-parts';

/** What may be done with a run whose result should not stand as it is. */
export function RunActs({
  runId,
  cell,
  isAside,
  mayLead,
}: {
  runId: number;
  cell: string;
  isAside: boolean;
  mayLead: boolean;
}) {
  return (
    <div className="flex flex-wrap items-start gap-x-3 text-[0.87rem]">
      {!isAside && (
        <ReasonForm
          open="Set aside …"
          title="Set this result aside"
          note="A spoilt test: it is kept and shown, and counts in no verdict, grade or statistic."
          label="What went wrong"
          does="Set aside"
          act={(reason, _form, key) => setAsideAct({ runId, readingId: null, reason }, key)}
        />
      )}
      {mayLead && (
        <ReasonForm
          open="Of another cell …"
          title={`This run is not of ${cell}`}
          note="It goes to the right cell with all its figures; both cells are judged anew, and both keep the history."
          label="Why"
          does="Move it"
          act={(reason, form, key) =>
            moveRunAct({ runId, toCell: String(form.get('cell') ?? ''), reason }, key)
          }
        >
          <Label text="Number of the right cell">
            <Input name="cell" className="w-40" autoComplete="off" autoFocus />
          </Label>
        </ReasonForm>
      )}
    </div>
  );
}

/** Sets a typed capacity aside. */
export function ReadingActs({ readingId }: { readingId: number }) {
  return (
    <ReasonForm
      open="Set aside …"
      title="Set this typed capacity aside"
      label="What went wrong"
      does="Set aside"
      act={(reason, _form, key) => setAsideAct({ runId: null, readingId, reason }, key)}
    />
  );
}
