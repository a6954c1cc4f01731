'use client';

import type { BoxView, Part } from '@dusk-tally/lab/arrivals';
import { formatDistanceToNowStrict } from 'date-fns';
import { Plus, Scale } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { NumberField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Problem } from '@/kit/page';
import { OutboxLine } from '@/kit/outbox-line';
import { setCountAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { type ReceivingEntry, useReceiving } from './use-receiving';
import { Input, Label } from '@/kit/form-parts';
import { Table } from '@/kit/table';
import { NumberInput } from '@/kit/quantity-field';

const WEIGHTS = [
  ['grossG', 'Gross, with the box / g'],
  ['tareG', 'Tare, the empty box / g'],
  ['netG', 'Net, the cells alone / g'],
  ['scaleToleranceG', 'Scale may be off by / g'],
] as const;

const FIELD_WORDS: Record<string, string> = {
  counted: 'counted',
  packsCounted: 'packs counted',
  grossG: 'gross mass, g:',
  tareG: 'tare, g:',
  netG: 'net mass, g:',
  scaleToleranceG: 'scale’s tolerance, g:',
  parts: 'parts',
  boxNote: 'note:',
  school: 'triage school:',
};

function entryWords(field: string, value: unknown): string {
  if (field === 'parts') return `parts: ${(value as Part[]).map((part) => part.name).join(', ')}`;
  if (field.startsWith('skip:'))
    return `${value ? 'left out' : 'took up'} the step ${field.slice(5)}`;
  if (field === 'decision') {
    const { act, reason } = value as { act: string; reason: string };
    return `sample failed, decided: ${{ testAll: 'test all', return: 'return', accept: 'accept' }[act]} (${reason})`;
  }
  return `${FIELD_WORDS[field] ?? field} ${String(value ?? 'taken back')}`;
}

type Enter = ReturnType<typeof useReceiving>['enter'];

/** How the count stands to what was ordered. */
function countWords(here: number | null, ordered: number | null): string {
  if (ordered === null) return 'How many were ordered is not recorded.';
  if (here === null || here === 0) return `${ordered} ordered.`;
  if (here === ordered) return `${ordered} ordered: the count agrees.`;
  return `${ordered} ordered: ${Math.abs(here - ordered)} ${here < ordered ? 'missing' : 'too many'}.`;
}

/** Cells or packs, counted. */
function Count({ lotId, box, ordered, quantity, takenAs, enter }: BoxProps & { enter: Enter }) {
  const packs = takenAs === 'packs';
  const counted = packs ? box.values.packsCounted : (box.values.counted ?? (quantity || null));
  const form = useLabForm({
    schema: 'countInput',
    first: { lotId, count: counted as number },
    act: async (input, key) => {
      if (!packs) return setCountAct(input, key);
      enter([{ field: 'packsCounted', value: input.count }]);
      return { ok: true, data: { quantity: input.count } };
    },
  });
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Count</h2>
      <Form
        of={form}
        label="Count"
        act="Keep the count"
        className="mt-2 flex flex-wrap items-end gap-3"
      >
        <NumberField
          name="count"
          quantity="count"
          label={`${packs ? 'Packs' : 'Cells'} counted`}
          className="w-40 tabular-nums"
        />
        <p className="order-last min-h-11 content-center" data-testid="count-note">
          {countWords(packs ? box.values.packsCounted : quantity, ordered)}
        </p>
      </Form>
    </section>
  );
}

/** The box and what is in it, weighed. */
function Weigh({ box, enter, refused }: { box: BoxView; enter: Enter; refused: string | null }) {
  const { grossG, tareG, netG, scaleToleranceG } = box.values;
  const stored = { grossG, tareG, netG, scaleToleranceG };
  // What somebody else entered meanwhile stands here as it was: only what was typed here is sent.
  const isTyped = useRef<(field: keyof typeof stored) => boolean>(() => false);
  const form = useLabForm({
    schema: 'boxWeights',
    first: stored,
    act: (weights) => {
      const entries = WEIGHTS.flatMap(([field]): ReceivingEntry[] =>
        isTyped.current(field) ? [{ field, value: weights[field] }] : [],
      );
      if (entries.length > 0) enter(entries);
      return Promise.resolve({ ok: true as const, data: undefined });
    },
  });
  const { dirtyFields } = form.form.formState;
  useEffect(() => {
    isTyped.current = (field) => dirtyFields[field] === true;
  });
  const isOff = box.judgement.verdict === 'light' || box.judgement.verdict === 'heavy';
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Weigh</h2>
      <Form of={form} label="Weigh" act="Keep the weights" look="plain" className="mt-2 space-y-3">
        <div className="grid gap-3 sm:grid-cols-4">
          {WEIGHTS.map(([name, words]) => (
            <NumberField key={name} name={name} quantity="massG" label={words} />
          ))}
        </div>
      </Form>
      {refused && <Problem>{refused}</Problem>}
      <p
        className={`mt-3 flex items-start gap-2 border-l-4 pl-3 ${isOff ? 'border-missed text-missed' : 'border-rule text-quiet'}`}
        data-testid="weight-note"
      >
        <Scale size={16} className="mt-0.5 shrink-0" aria-hidden />
        {box.judgement.sentence}
      </p>
    </section>
  );
}

/** The last entries at the box, of everybody. */
function WhoEntered({ history }: { history: BoxView['history'] }) {
  return (
    <aside className="panel self-start p-4">
      <h2 className="font-semibold">Who entered what</h2>
      {history.length === 0 ? (
        <p className="mt-1 text-quiet">Nothing yet. Two people may work on one box at once.</p>
      ) : (
        <ul className="mt-1 space-y-1.5 text-[0.9rem]" aria-live="polite">
          {history.slice(0, 12).map((entry, i) => (
            <li key={i}>
              {entryWords(entry.field, entry.value)}
              <span
                className="block text-[0.8rem] text-quiet"
                title={new Date(entry.at).toISOString()}
                suppressHydrationWarning
              >
                {entry.person}, {formatDistanceToNowStrict(new Date(entry.at))} ago
              </span>
            </li>
          ))}
        </ul>
      )}
    </aside>
  );
}

interface BoxProps {
  lotId: number;
  box: BoxView;
  ordered: number | null;
  quantity: number;
  takenAs: 'cells' | 'packs';
}

/** The box: counted, weighed, what came along. What others enter meanwhile stands beside it. */
export function BoxStep(props: BoxProps) {
  const { lotId, box } = props;
  const { state, enter, problem } = useReceiving(lotId);
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <div className="space-y-5">
        <Count {...props} enter={enter} />
        <Weigh box={box} enter={enter} refused={problem} />
        <Parts parts={box.parts} onChange={(parts) => enter([{ field: 'parts', value: parts }])} />
        <OutboxLine state={state} one="entry" many="entries" />
      </div>
      <WhoEntered history={box.history} />
    </div>
  );
}

/** Parts that should come along: bus bars, bolts, covers. */
function Parts({ parts, onChange }: { parts: Part[]; onChange: (parts: Part[]) => void }) {
  const [name, setName] = useState('');
  const [expected, setExpected] = useState('');
  const add = () => {
    const count = typedNumber(expected, 'count');
    if (name.trim() === '' || count === null || !Number.isInteger(count) || count < 0) return;
    onChange([...parts, { name: name.trim(), expected: count, found: null }]);
    setName('');
    setExpected('');
  };
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Parts that should come along</h2>
      {parts.length > 0 && (
        <Table className="mt-1 w-full">
          <thead>
            <tr>
              <th>Part</th>
              <th className="num">Should be</th>
              <th className="num">Came</th>
              <th>
                <span className="sr-only">Standing</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {parts.map((part, i) => (
              <tr key={i}>
                <td>{part.name}</td>
                <td className="num">{part.expected}</td>
                <td className="num">
                  <Input
                    className="w-24 text-right tabular-nums"
                    aria-label={`${part.name} that came`}
                    inputMode="numeric"
                    defaultValue={part.found ?? ''}
                    onBlur={(event) => {
                      const came = typedNumber(event.target.value, 'count');
                      if (came === part.found || Number.isNaN(came)) return;
                      onChange(parts.map((p, k) => (k === i ? { ...p, found: came } : p)));
                    }}
                  />
                </td>
                <td
                  className={
                    part.found !== null && part.found < part.expected ? 'text-missed' : 'text-quiet'
                  }
                >
                  {part.found === null
                    ? 'not counted'
                    : part.found < part.expected
                      ? `${part.expected - part.found} missing`
                      : 'complete'}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Label text="Part, such as bus bars">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Label>
        <Label text="How many">
          <NumberInput
            quantity="count"
            text={expected}
            onText={(next) => setExpected(next)}
            className="w-28"
          />
        </Label>
        <Button onClick={add}>
          <Plus size={16} aria-hidden /> Add the part
        </Button>
      </div>
    </section>
  );
}
