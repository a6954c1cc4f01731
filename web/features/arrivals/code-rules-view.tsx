'use client';

import type { CodeRules } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Label, TextArea } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { Table } from '@/kit/table';
import { useAct } from '@/kit/use-act';
import { addTemplateAct, nameMakerAct, switchTemplateAct, tryTemplateAct } from './arrival-acts';

interface Trial {
  text: string;
  words: string;
  ok: boolean;
}

/** How codes are read: the lab’s own templates, tried on samples, and who the makers are. */
export function CodeRulesView({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
  return (
    <div className="space-y-5">
      <section className="panel p-4">
        <h2 className="font-semibold">Templates</h2>
        <p className="text-quiet">
          GB/T 34014-2017 is always read. For other makers’ codes, write what stands where, such as{' '}
          <code>{'{plant:1}{year:2}{week:2}-{serial:5}'}</code>. Parts: year, month, week, day,
          serial, plant, maker, any.
        </p>
        <TemplateList rules={rules} mayChange={mayChange} />
        <TemplateForm mayChange={mayChange} />
      </section>
      <Makers rules={rules} mayChange={mayChange} />
    </div>
  );
}

/** Templates the lab has, to be put away and taken up again. */
function TemplateList({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
  const { run, busy, problem } = useAct();
  if (rules.templates.length === 0) return null;
  return (
    <>
      <Table className="mt-2 w-full">
        <tbody>
          {rules.templates.map(({ id, version, name, pattern, active }) => (
            <tr key={id} className={active ? '' : 'text-quiet'}>
              <td className="font-medium">{name}</td>
              <td>
                <code>{pattern}</code>
              </td>
              <td className="text-right">
                {mayChange && (
                  <Button
                    disabled={busy}
                    onClick={() =>
                      run((key) => switchTemplateAct({ id, version, active: !active }, key))
                    }
                  >
                    {active ? 'Put away' : 'Take up again'}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {problem && <Problem>{problem}</Problem>}
    </>
  );
}

type Reading = Extract<
  Awaited<ReturnType<typeof tryTemplateAct>>,
  { ok: true }
>['data'][number]['reading'];

/** What a code was read as, or why it does not fit. */
function readingWords(reading: Reading): string {
  if (!reading.ok) return reading.message;
  const { producedFrom, producedUntil, serial, maker, trace } = reading;
  const produced =
    producedFrom === producedUntil
      ? `produced ${producedFrom}`
      : `produced ${producedFrom} to ${producedUntil}`;
  return (
    [producedFrom && produced, serial && `serial ${serial}`, maker && `maker ${maker}`, trace]
      .filter(Boolean)
      .join(', ') || 'fits'
  );
}

/** A pattern tried on samples before it is kept. */
function useTrial() {
  const [trial, setTrial] = useState<Trial[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const tryIt = async (pattern: string, samples: string) => {
    const outcome = await tryTemplateAct({ pattern, samples });
    setProblem(outcome.ok ? null : outcome.message);
    setTrial(
      outcome.ok
        ? outcome.data.map(({ text, reading }) => ({
            text,
            ok: reading.ok,
            words: readingWords(reading),
          }))
        : null,
    );
  };
  return { trial, problem, tryIt };
}

/** A new template: its pattern, tried on samples, and its name. */
function TemplateForm({ mayChange }: { mayChange: boolean }) {
  const [samples, setSamples] = useState('');
  const { trial, problem, tryIt } = useTrial();
  const form = useLabForm({
    schema: 'templateInput',
    first: { name: '', pattern: '' },
    act: addTemplateAct,
    done: () => form.form.setValue('name', ''),
  });
  const pattern = useWatch({ control: form.form.control, name: 'pattern' });
  return (
    <div className="mt-3 grid gap-3 md:grid-cols-2">
      <Form
        of={form}
        label="A new template"
        act="Keep the template"
        look="plain"
        hidesAct={!mayChange}
      >
        <TextField name="pattern" label="Pattern" />
        <Label text="Samples to try it on, one a line">
          <TextArea
            className="min-h-24"
            value={samples}
            onChange={(event) => setSamples(event.target.value)}
          />
        </Label>
        <Button onClick={() => void tryIt(pattern, samples)}>Try it</Button>
        {problem && <Problem>{problem}</Problem>}
        {mayChange && <TextField name="name" label="Name of the template" />}
      </Form>
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
  );
}

function MakerForm() {
  const form = useLabForm({
    schema: 'makerInput',
    first: { code: '', name: '' },
    act: nameMakerAct,
    done: () => form.forget(),
  });
  return (
    <Form
      of={form}
      label="A maker’s code"
      act="Keep the maker"
      look="plain"
      className="mt-3 space-y-3"
    >
      <div className="flex flex-wrap items-end gap-3">
        <TextField name="code" label="Maker’s code" className="w-32" />
        <TextField name="name" label="stands for" className="w-64" />
      </div>
    </Form>
  );
}

function Makers({ rules, mayChange }: { rules: CodeRules; mayChange: boolean }) {
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
      {mayChange && <MakerForm />}
    </section>
  );
}
