'use client';

import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import type { ScopedScheme, SchemesPage } from '@dusk-tally/lab/verdicts';
import { useState } from 'react';
import { ButtonLink } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Label } from '@/kit/form-parts';
import { LabMoment } from '@/kit/lab-time';
import { Table } from '@/kit/table';
import { ReasonForm } from '@/kit/reason-form';
import { endSchemeAct } from './acts';
import { conditionWords, scopeWords } from './condition-words';

const changeHref = (scope: string) => `/lab/grades/change?for=${encodeURIComponent(scope)}`;

function Scheme({
  scheme,
  models,
  mayLead,
}: {
  scheme: ScopedScheme;
  models: SchemesPage['models'];
  mayLead: boolean;
}) {
  const { scope, name, version, grades, atBest, tooCloseIsEnough } = scheme;
  const words = scopeWords(scope, models);
  return (
    <section className="panel p-4" aria-label={`${name}, for ${words}`}>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="font-semibold">
            {name} <span className="font-normal text-quiet">version {version}</span>
          </h2>
          <p className="text-quiet">For {words}</p>
        </div>
        {mayLead && (
          <div className="flex flex-wrap gap-2">
            {scope !== 'house' && (
              <ReasonForm
                open="End it"
                title={`End ${name}`}
                note={`From then on ${words} are graded by the wider scheme again.`}
                does="End it and grade anew"
                act={(reason, _form, key) => endSchemeAct({ scope, seen: version, reason }, key)}
              />
            )}
            <ButtonLink href={changeHref(scope)}>Change it</ButtonLink>
          </div>
        )}
      </div>
      <Table label={`Grades of ${name}`}>
        <tbody>
          {grades.map((grade) => (
            <tr key={grade.name}>
              <th scope="row" className="whitespace-nowrap">
                {grade.name}
              </th>
              <td>
                {grade.conditions.map(conditionWords).join('; ') || 'whatever is left'}
                {grade.note && `; ${grade.note}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="mt-1 text-[0.87rem] text-quiet">
        Too close to call {tooCloseIsEnough ? 'is enough' : 'counts as not met'}. Dangerous:{' '}
        {atBest.dangerous}, whatever it measures. Below 1.0 V once: {atBest.belowOneVolt} at best.
      </p>
    </section>
  );
}

/** Schemes in force, the house’s first. */
export function SchemeList({ page, mayLead }: { page: SchemesPage; mayLead: boolean }) {
  return page.schemes.map((scheme) => (
    <Scheme key={scheme.scope} scheme={scheme} models={page.models} mayLead={mayLead} />
  ));
}

/** Begins a scheme of its own for a chemistry or a model. */
export function NewScheme({ page: { schemes, models } }: { page: SchemesPage }) {
  const there = new Set(schemes.map(({ scope }) => scope));
  const free = [
    ...CHEMISTRIES.map((one) => `chemistry:${one}`),
    ...models.map(({ id }) => `model:${id}`),
  ].filter((scope) => !there.has(scope));
  const [chosen, setChosen] = useState(free[0] ?? '');
  if (free.length === 0) return null;
  return (
    <section className="panel flex flex-wrap items-end gap-3 p-4" aria-label="Grades of their own">
      <Label text="Other grades for" className="w-72">
        <Choice value={chosen} onValue={setChosen}>
          {free.map((scope) => (
            <Option key={scope} value={scope}>
              {scopeWords(scope, models)}
            </Option>
          ))}
        </Choice>
      </Label>
      <ButtonLink href={changeHref(chosen)}>Begin</ButtonLink>
    </section>
  );
}

/** Every version there was, the newest first. */
export function SchemeHistory({ page: { history, models } }: { page: SchemesPage }) {
  if (history.length === 0) return null;
  return (
    <section className="panel p-4" aria-label="Versions">
      <h2 className="font-semibold">Versions</h2>
      <Table label="Versions">
        <tbody>
          {history.map(({ scope, name, version, ended, reason, who, at }) => (
            <tr key={`${scope} ${version}`}>
              <td className="whitespace-nowrap">
                <LabMoment at={at} />
              </td>
              <td>
                {name} version {version}, for {scopeWords(scope, models)}
                {ended && ', ended'}
              </td>
              <td className="text-quiet">
                {reason} ({who})
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
