'use client';

import type { CodeRules } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { addTemplateAct, nameMakerAct, tryTemplateAct, switchTemplateAct } from './arrival-acts';
import { useAct } from '@/kit/use-act';
import { Input, Label, TextArea } from '@/kit/form-parts';
import { Table } from '@/kit/table';

type Trial = { text: string; words: string; ok: boolean }[];

/** How codes are read: the lab’s own templates, tried on samples, and who the makers are. */
export function CodeRulesView({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
  return (
    <div className="space-y-5">
      <Templates rules={rules} mayChange={mayChange} />
      <Makers rules={rules} mayChange={mayChange} />
    </div>
  );
}

function Templates({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
  const [name, setName] = useState('');
  const [pattern, setPattern] = useState('');
  const [samples, setSamples] = useState('');
  const [trial, setTrial] = useState<Trial | null>(null);
  const { run, busy, problem, setProblem } = useAct();
  const tryIt = async () => {
    const outcome = await tryTemplateAct({ pattern, samples });
    if (!outcome.ok) {
      setTrial(null);
      return setProblem(outcome.message);
    }
    setProblem(null);
    setTrial(
      outcome.data.map(({ text, reading }) => ({
        text,
        ok: reading.ok,
        words: reading.ok
          ? [
              reading.producedFrom &&
                (reading.producedFrom === reading.producedUntil
                  ? `produced ${reading.producedFrom}`
                  : `produced ${reading.producedFrom} to ${reading.producedUntil}`),
              reading.serial && `serial ${reading.serial}`,
              reading.maker && `maker ${reading.maker}`,
              reading.trace,
            ]
              .filter(Boolean)
              .join(', ') || 'fits'
          : reading.message,
      })),
    );
  };
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Templates</h2>
      <p className="text-quiet">
        GB/T 34014-2017 is always read. For other makers’ codes, write what stands where, such as{' '}
        <code>{'{plant:1}{year:2}{week:2}-{serial:5}'}</code>. Parts: year, month, week, day,
        serial, plant, maker, any.
      </p>
      {rules.templates.length > 0 && (
        <Table className="mt-2 w-full">
          <tbody>
            {rules.templates.map((row) => (
              <tr key={row.id} className={row.active ? '' : 'text-quiet'}>
                <td className="font-medium">{row.name}</td>
                <td>
                  <code>{row.pattern}</code>
                </td>
                <td className="text-right">
                  {mayChange && (
                    <Button
                      disabled={busy}
                      onClick={() =>
                        run(() =>
                          switchTemplateAct({
                            id: row.id,
                            version: row.version,
                            active: !row.active,
                          }),
                        )
                      }
                    >
                      {row.active ? 'Put away' : 'Take up again'}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <div className="mt-3 grid gap-3 md:grid-cols-2">
        <div className="space-y-3">
          <Label text="Pattern">
            <Input value={pattern} onChange={(event) => setPattern(event.target.value)} />
          </Label>
          <Label text="Samples to try it on, one a line">
            <TextArea
              className="min-h-24"
              value={samples}
              onChange={(event) => setSamples(event.target.value)}
            />
          </Label>
          <Button disabled={busy} onClick={() => void tryIt()}>
            Try it
          </Button>
          {mayChange && (
            <div className="flex flex-wrap items-end gap-3">
              <Label text="Name of the template">
                <Input value={name} onChange={(event) => setName(event.target.value)} />
              </Label>
              <Button
                disabled={busy}
                onClick={() =>
                  run(
                    () => addTemplateAct({ name, pattern }),
                    () => setName(''),
                  )
                }
              >
                Keep the template
              </Button>
            </div>
          )}
          {problem && <Problem>{problem}</Problem>}
        </div>
        {trial && (
          <ul className="space-y-1" aria-label="What the pattern reads">
            {trial.map((line, i) => (
              <li key={i}>
                <code>{line.text}</code>{' '}
                <span className={line.ok ? 'text-met' : 'text-missed'}>{line.words}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

function Makers({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const { run, busy, problem } = useAct();
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Makers</h2>
      {rules.makers.length === 0 ? (
        <p className="text-quiet">None named yet; codes show the maker’s code as it stands.</p>
      ) : (
        <Table className="mt-1 w-full">
          <tbody>
            {rules.makers.map((maker) => (
              <tr key={maker.id}>
                <td className="w-32 font-medium">{maker.code}</td>
                <td>{maker.name}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {mayChange && (
        <form
          className="mt-3 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            run(
              () => nameMakerAct({ code, name }),
              () => {
                setCode('');
                setName('');
              },
            );
          }}
        >
          <Label text="Maker’s code">
            <Input
              className="w-32 uppercase"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </Label>
          <Label text="stands for">
            <Input
              className="w-64"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </Label>
          <Button type="submit" disabled={busy}>
            Keep the maker
          </Button>
        </form>
      )}
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
