import type { ReportedFigure, ReportedItem, ReportSnapshot } from '@dusk-tally/lab/reports';
import { healthText } from '@dusk-tally/core/verdicts';
import { Link } from '@/kit/link';
import type { ReactNode } from 'react';
import { Table } from '@/kit/table';
import { TracedFigure } from '@/kit/traced-figure';

const figure = (reported: ReportedFigure | null) => <TracedFigure figure={reported} />;

const COLUMNS: [string, (item: ReportedItem) => ReactNode, boolean][] = [
  [
    'Item',
    (item) => (
      <Link href={`/cells/${item.number}`} className="font-medium hover:underline">
        {item.number}
      </Link>
    ),
    false,
  ],
  [
    'Capacity / Ah',
    (item) => (
      <>
        {figure(item.capacity)}
        {item.capacityMeasured && (
          <span className="block text-[0.78rem] text-quiet">
            {' '}
            measured {figure(item.capacityMeasured)}
          </span>
        )}
      </>
    ),
    true,
  ],
  ['Energy / Wh', (item) => figure(item.energy), true],
  ['R 10 s / mΩ', (item) => figure(item.dcResistance10s), true],
  ['R AC / mΩ', (item) => figure(item.acResistance), true],
  ['SoH / %', (item) => healthText(item.stateOfHealthPct, item.capacity?.bound), true],
  ['Capacity claim', (item) => item.verdicts.capacity ?? 'open', false],
  ['Grade', (item) => item.grade ?? 'waiting', false],
];

function Part({ title, texts }: { title: string; texts: string[] }) {
  return (
    <section>
      <h2 className="mb-1 font-semibold">{title}</h2>
      {texts.map((text) => (
        <p key={text} className="text-quiet">
          {text}
        </p>
      ))}
    </section>
  );
}

/** A frozen report as a page. */
export function SnapshotView({ snapshot }: { snapshot: ReportSnapshot }) {
  return (
    <div className="space-y-5">
      <div className="panel overflow-x-auto p-2">
        <Table>
          <thead>
            <tr>
              {COLUMNS.map(([head, , num]) => (
                <th key={head} className={num ? 'num' : ''}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {snapshot.items.map((item) => (
              <tr key={item.number}>
                {COLUMNS.map(([head, cell, num]) => (
                  <td key={head} className={num ? 'num' : ''}>
                    {cell(item)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
      <div className="grid gap-5 lg:grid-cols-2">
        <Part
          title="Claim"
          texts={snapshot.claim.map((line) => `${line.name}: ${line.value}; ${line.conditions}.`)}
        />
        <Part
          title="Instruments"
          texts={
            snapshot.instruments.length > 0
              ? snapshot.instruments.map(
                  (row) => `${row.name}: ${row.accuracy}; ${row.calibration}.`,
                )
              : ['No instrument is recorded for these items.']
          }
        />
        <Part title="Method" texts={[...snapshot.method, ...snapshot.decisionRule]} />
        {snapshot.items.some((item) => item.onArrival) && (
          <Part
            title="Condition on arrival"
            texts={snapshot.items.map(
              (item) => `${item.number}: ${item.onArrival?.join('; ') || 'not recorded'}.`,
            )}
          />
        )}
        {snapshot.items.some((item) => item.rest?.length) && (
          <Part
            title="At rest"
            texts={snapshot.items
              .filter((item) => item.rest?.length)
              .map((item) => `${item.number}: ${item.rest!.join(' ')}`)}
          />
        )}
        <Part
          title="Not tested, and cautions"
          texts={[...snapshot.notTested, ...snapshot.cautions]}
        />
      </div>
    </div>
  );
}
