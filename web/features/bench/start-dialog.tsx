'use client';

import type { BoardChannel, BoardJob, StartList } from '@dusk-tally/lab/bench';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Over } from '@/kit/panel-over';
import { useScans } from '@/kit/scan-listener';
import { useAct } from '@/kit/use-act';
import { startJobAct, startListAct } from './bench-acts';
import { lengthOf } from './words';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Tick } from '@/kit/tick';
import { NumberInput } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

/** The list of a job on a channel, and what of it is answered. */
function useStartList(jobId: number, channelId: number, counter: string) {
  const [list, setList] = useState<StartList | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [fromSet, setFromSet] = useState<ReadonlySet<string>>(new Set());
  const carried = useRef<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let gone = false;
    void startListAct({
      jobId,
      channelId,
      counterAh: typedNumber(counter, 'capacityAh'),
    }).then((outcome) => {
      if (gone) return;
      setFailed(outcome.ok ? null : outcome.message);
      setList(outcome.ok ? outcome.data : null);
      if (!outcome.ok) return;
      const known = outcome.data.questions.flatMap((one) => (one.known ? one.question : []));
      setFromSet(new Set(known));
      // What was carried over holds for the channel it was asked for; ticks by hand stay.
      const earlier = carried.current;
      carried.current = new Set(known);
      setTicked((before) => new Set([...[...before].filter((one) => !earlier.has(one)), ...known]));
    });
    return () => {
      gone = true;
    };
  }, [jobId, channelId, counter]);
  const answer = (question: string, on: boolean) => {
    const next = new Set(ticked);
    if (on) next.add(question);
    else next.delete(question);
    setTicked(next);
    setFromSet(new Set([...fromSet].filter((one) => one !== question)));
    carried.current = new Set([...carried.current].filter((one) => one !== question));
  };
  return { list, failed, ticked, fromSet, answer };
}

/** Sentences beside a bar of their weight. */
function Told({ title, tone, texts }: { title: string; tone: string; texts: readonly string[] }) {
  if (texts.length === 0) return null;
  return (
    <section aria-label={title} className={`rounded-sm border-l-4 bg-wash px-3 py-2 ${tone}`}>
      <h3 className="font-semibold">{title}</h3>
      <ul className="list-inside list-disc">
        {texts.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

const textsOf = (list: StartList, weight: 'stop' | 'say') =>
  list.reasons.filter((reason) => reason.weight === weight).map(({ text }) => text);

/** What stands against a start, what is kept with the run, and what a person answers for. */
function ListTold({
  list,
  ticked,
  fromSet,
  answer,
}: Omit<ReturnType<typeof useStartList>, 'list' | 'failed'> & { list: StartList }) {
  return (
    <div className="mt-4 space-y-4">
      <Told title="Reasons not to start" tone="border-missed" texts={textsOf(list, 'stop')} />
      <Told
        title="Kept with the run"
        tone="border-doubt"
        texts={[
          ...textsOf(list, 'say'),
          ...list.differences,
          ...(list.leads.advice ? [list.leads.advice] : []),
        ]}
      />
      <fieldset className="space-y-1.5">
        <legend className="mb-1 font-semibold">You answer for</legend>
        {list.questions.map(({ question, words }) => (
          <Tick
            key={question}
            checked={ticked.has(question)}
            onChecked={(on) => answer(question, on)}
            className="min-h-9 gap-2.5"
          >
            {words}
            {fromSet.has(question) && <span className="text-quiet">(as for the cells before)</span>}
          </Tick>
        ))}
        {list.clamping !== null && (
          <p className="text-quiet">
            {list.clamping === 'free'
              ? 'Held: free, without a fixture.'
              : `Held: clamp it in its fixture${list.clampForceN === null ? '' : `, ${list.clampForceN} N`}, as the data sheet says.`}
          </p>
        )}
        {list.torqueNm !== null && (
          <p className="text-quiet">Terminals: {list.torqueNm} N·m, as the data sheet says.</p>
        )}
      </fieldset>
      {list.isCharging && (
        <p className="text-quiet">
          Lithium cells are charged only between 0 and 45 °C. Never leave a first charge alone. A
          cell that gets hot is finished: the bench stops it and blocks it.
        </p>
      )}
    </div>
  );
}

/** The list before a start: what stands against it, and what a person answers for. */
export function StartDialog({
  job,
  channels,
  close,
}: {
  job: BoardJob;
  channels: readonly BoardChannel[];
  close: () => void;
}) {
  const free = channels.filter(({ busy }) => busy.length === 0);
  const [channelId, setChannelId] = useState(
    (free.find(({ id }) => id === job.parts[0]?.channelId) ?? free[0] ?? channels[0])?.id ?? 0,
  );
  const [counter, setCounter] = useState('');
  const [scanned, setScanned] = useState('');
  // A scan goes to the field, wherever the focus is, and not to the cell’s page.
  useScans((code) => {
    setScanned(code);
    return code.toUpperCase() === job.cell ? `${job.cell} stands there` : null;
  });
  const started = useStartList(job.id, channelId, counter);
  const { list, failed, ticked, fromSet } = started;
  const { run, busy, problem } = useAct();
  const router = useRouter();
  const stops = list ? textsOf(list, 'stop') : [];
  const open = list?.questions.filter(({ question }) => !ticked.has(question)) ?? [];
  const start = () =>
    run(
      (key) =>
        startJobAct(
          {
            jobId: job.id,
            channelId,
            counterAh: typedNumber(counter, 'capacityAh'),
            scanned,
            answers: list!.questions.map(({ question }) => ({
              question,
              answeredFor: fromSet.has(question) ? ('set' as const) : ('cell' as const),
            })),
          },
          key,
        ),
      ({ benchRunId }) => {
        close();
        router.push(`/bench/runs/${benchRunId}`);
      },
    );
  return (
    <Over
      open
      onOpen={(next) => !next && close()}
      width={680}
      title={`Before ${job.cell} starts: ${job.recipe}`}
      says={`${list ? `Takes about ${lengthOf(list.durationS)}. ` : ''}Local codes, the maker’s data sheet and a licensed practitioner come first.`}
    >
      <div className="mt-3 flex flex-wrap gap-4">
        <Label text="Channel">
          <Choice className="w-60" value={channelId} onValue={(next) => setChannelId(Number(next))}>
            {channels.map(({ id, title, busy: taken, driven }) => (
              <Option key={id} value={id}>
                {title}
                {taken.length > 0 ? ` (${taken[0]!.cell} is on it)` : driven ? '' : ' (by hand)'}
              </Option>
            ))}
          </Choice>
        </Label>
        {list && !list.channel.driven && (
          <Label text="Counter shows / Ah">
            <NumberInput
              quantity="capacityAh"
              text={counter}
              onText={(next) => setCounter(next)}
              className="w-32"
              placeholder="0"
            />
          </Label>
        )}
        <Label text="Cell at its place, scanned">
          <Input
            value={scanned}
            onChange={(event) => setScanned(event.target.value)}
            className="w-44"
            placeholder="not scanned"
            autoComplete="off"
            aria-describedby="scanned-says"
          />
        </Label>
      </div>
      <p id="scanned-says" className="mt-1 text-[0.82rem] text-quiet">
        Scan the cell where it stands: two cells that are swapped between channels leave no trace in
        their logs.
      </p>
      {failed && <Problem>{failed}</Problem>}
      {list && <ListTold {...started} list={list} />}
      {problem && <Problem>{problem}</Problem>}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button
          look="primary"
          disabled={busy || !list || stops.length > 0 || open.length > 0}
          onClick={start}
        >
          {stops.length > 0
            ? 'May not start'
            : open.length > 0
              ? `${open.length} left to answer`
              : 'Start'}
        </Button>
      </div>
    </Over>
  );
}
