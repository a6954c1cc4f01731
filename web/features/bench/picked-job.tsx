'use client';

import type { BoardJob, PlanBoard as Board } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { MomentField } from '@/kit/date-field';
import { DayField, TickField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Label } from '@/kit/form-parts';
import { useMomentField } from '@/kit/lab-time';
import { Problem } from '@/kit/page';
import { say } from '@/kit/say';
import { useAct } from '@/kit/use-act';
import { clockOf } from '@/kit/use-clock';
import { cancelJobsAct, changeJobAct, unpinJobAct } from './bench-acts';
import type { Place } from './plan-board';

/** Another channel or another start for a part that is planned. */
function MoveForm({
  job,
  part,
  planned,
  board,
  drop,
}: {
  job: BoardJob;
  part: number;
  planned: BoardJob['parts'][number];
  board: Board;
  drop: (place: Place) => void;
}) {
  const [channelId, setChannelId] = useState(planned.channelId);
  const { toField, fromField } = useMomentField();
  const [from, setFrom] = useState(toField(planned.from));
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      aria-label="Where and when"
      onSubmit={(event) => {
        event.preventDefault();
        drop({ job, part, channelId, from: fromField(from) });
      }}
    >
      <Label text="Channel">
        <Choice className="w-52" value={channelId} onValue={(next) => setChannelId(Number(next))}>
          {board.channels.map(({ id, title }) => (
            <Option key={id} value={id}>
              {title}
            </Option>
          ))}
        </Choice>
      </Label>
      <Label text="Starts">
        <MomentField label="Starts" value={from} onValue={(next) => setFrom(next)} />
      </Label>
      <Button type="submit">Move</Button>
    </form>
  );
}

/** When a job is due and whether it is pressing; the plan takes it up when it is made again. */
function DueForm({ job }: { job: BoardJob }) {
  const form = useLabForm({
    schema: 'jobChange',
    first: { id: job.id, version: job.version, dueOn: job.dueOn, priority: job.priority },
    act: changeJobAct,
    done: () => say(`${job.cell}: kept. The next planning takes it up.`),
  });
  return (
    <Form
      of={form}
      label="When it is due"
      act="Keep"
      look="plain"
      className="flex flex-wrap items-end gap-3"
    >
      <DayField name="dueOn" label="Due" className="w-44" />
      <TickField name="priority" label="Pressing" yes={3} no={1} className="pb-2" />
    </Form>
  );
}

/** What can be done with the part of a job that was picked on the board. */
export function Picked({
  job,
  part,
  board,
  start,
  drop,
}: {
  job: BoardJob;
  part: number;
  board: Board;
  start: () => void;
  drop: (place: Place) => void;
}) {
  const { run, busy, problem } = useAct();
  const planned = job.parts[part];
  const now = new Date(board.now);
  return (
    <section className="panel mt-3 p-4" aria-label={`Job of ${job.cell}`}>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h3 className="font-semibold">
            {job.cell}: {job.recipe}
            {job.parts.length > 1 && `, part ${part + 1} of ${job.parts.length}`}
          </h3>
          <p className="text-quiet">
            {planned &&
              `${clockOf(planned.from, now, board.timeZone)} to ${clockOf(planned.to, now, board.timeZone)}. `}
            {job.dueOn && `Due ${job.dueOn}. `}
            {job.priority > 1 && 'Pressing. '}
            {job.firstCharge && 'Its first charge runs while somebody is there. '}
            {job.attendedOnly && 'Runs in attended hours from start to finish. '}
            {job.pinned && 'Put here by hand; planning leaves it.'}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button look="primary" onClick={start}>
            Start it now
          </Button>
          {job.pinned && (
            <Button
              disabled={busy}
              onClick={() => run((key) => unpinJobAct({ id: job.id, version: job.version }, key))}
            >
              Let the planner move it
            </Button>
          )}
          <Button
            disabled={busy}
            onClick={() => run((key) => cancelJobsAct({ ids: [job.id] }, key))}
          >
            Take off the list
          </Button>
        </div>
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-x-8 gap-y-3">
        {planned && <MoveForm job={job} part={part} planned={planned} board={board} drop={drop} />}
        <DueForm job={job} />
      </div>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
