'use client';

import type { BoxView, Part } from '@dusk-tally/lab/arrivals';
import { parseClearQuantity } from '@dusk-tally/core/units';
import { formatDistanceToNowStrict } from 'date-fns';
import { Plus, Scale } from 'lucide-react';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { OutboxLine } from '@/kit/outbox-line';
import { setCountAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
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

/** The box: counted, weighed, what came along. What others enter meanwhile stands beside it. */
export function BoxStep({
  lotId,
  box,
  ordered,
  quantity,
  takenAs,
}: {
  lotId: number;
  box: BoxView;
  ordered: number | null;
  quantity: number;
  takenAs: 'cells' | 'packs';
}) {
  const count = useAct();
  const { state, enter, problem } = useReceiving(lotId);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [refusal, setRefusal] = useState<string | null>(null);
  const packs = takenAs === 'packs';
  const stored = (name: (typeof WEIGHTS)[number][0]) => box.values[name];
  const shown = (name: string, value: number | null) =>
    typed[name] ?? (value === null ? '' : String(value));
  const countShown = shown(
    'counted',
    packs ? box.values.packsCounted : (box.values.counted ?? (quantity || null)),
  );
  const countIn = () => {
    const value = typedNumber(countShown, 'count');
    if (value === null || !Number.isInteger(value) || value < 0)
      return count.setProblem(
        `Counted: expected a whole number of 0 or more; found “${countShown}”.`,
      );
    if (packs) enter([{ field: 'packsCounted', value }]);
    else count.run(() => setCountAct({ lotId, count: value }));
  };
  const weigh = () => {
    const entries: ReceivingEntry[] = [];
    for (const [name, words] of WEIGHTS) {
      const text = typed[name];
      if (text === undefined) continue;
      const parsed = text.trim() === '' ? null : parseClearQuantity(text, 'massG');
      if (parsed && !parsed.ok) return setRefusal(`${words}: ${parsed.message}`);
      const value = parsed ? parsed.value : null;
      if (value !== stored(name)) entries.push({ field: name, value });
    }
    setRefusal(null);
    setTyped((now): Record<string, string> =>
      now.counted === undefined ? {} : { counted: now.counted },
    );
    if (entries.length > 0) enter(entries);
  };
  const here = packs ? box.values.packsCounted : quantity;
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <div className="space-y-5">
        <section className="panel p-4">
          <h2 className="font-semibold">Count</h2>
          <form
            className="mt-2 flex flex-wrap items-end gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              countIn();
            }}
          >
            <Label text={<>{packs ? 'Packs' : 'Cells'} counted</>}>
              <NumberInput
                quantity="count"
                text={countShown}
                onText={(next) => setTyped({ ...typed, counted: next })}
                className="min-h-11 w-40 text-lg tabular-nums"
              />
            </Label>
            <Button type="submit" look="primary" className="min-h-11" disabled={count.busy}>
              Keep the count
            </Button>
            <p className="min-h-11 content-center" data-testid="count-note">
              {ordered === null
                ? 'How many were ordered is not recorded.'
                : here === null || here === 0
                  ? `${ordered} ordered.`
                  : here === ordered
                    ? `${ordered} ordered: the count agrees.`
                    : `${ordered} ordered: ${Math.abs(here - ordered)} ${here < ordered ? 'missing' : 'too many'}.`}
            </p>
          </form>
          {count.problem && <Problem>{count.problem}</Problem>}
        </section>
        <section className="panel p-4">
          <h2 className="font-semibold">Weigh</h2>
          <form
            className="mt-2 space-y-3"
            onSubmit={(event) => {
              event.preventDefault();
              weigh();
            }}
          >
            <div className="grid gap-3 sm:grid-cols-4">
              {WEIGHTS.map(([name, words]) => (
                <Label key={name} text={words}>
                  <NumberInput
                    quantity="massG"
                    text={shown(name, stored(name))}
                    onText={(next) => setTyped({ ...typed, [name]: next })}
                    className="min-h-11 tabular-nums"
                    placeholder={name === 'scaleToleranceG' ? '5' : undefined}
                  />
                </Label>
              ))}
            </div>
            <Button type="submit" className="min-h-11">
              Keep the weights
            </Button>
          </form>
          {(refusal ?? problem) && <Problem>{refusal ?? problem}</Problem>}
          <p
            className={`mt-3 flex items-start gap-2 border-l-4 pl-3 ${box.judgement.verdict === 'light' || box.judgement.verdict === 'heavy' ? 'border-missed text-missed' : 'border-rule text-quiet'}`}
            data-testid="weight-note"
          >
            <Scale size={16} className="mt-0.5 shrink-0" aria-hidden />
            {box.judgement.sentence}
          </p>
        </section>
        <Parts parts={box.parts} onChange={(parts) => enter([{ field: 'parts', value: parts }])} />
        <OutboxLine state={state} one="entry" many="entries" />
      </div>
      <aside className="panel self-start p-4">
        <h2 className="font-semibold">Who entered what</h2>
        {box.history.length === 0 ? (
          <p className="mt-1 text-quiet">Nothing yet. Two people may work on one box at once.</p>
        ) : (
          <ul className="mt-1 space-y-1.5 text-[0.9rem]" aria-live="polite">
            {box.history.slice(0, 12).map((entry, i) => (
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
