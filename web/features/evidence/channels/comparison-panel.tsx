'use client';

import { compareMeters } from '@dusk-tally/core/evidence';
import type { MetersView } from '@dusk-tally/lab/evidence';
import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { addComparisonAct } from './channel-acts';
import { LabDay } from '@/kit/lab-time';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Table } from '@/kit/table';
import { Fold } from '@/kit/fold';

const UNITS = ['V', 'A', 'Ah', 'mΩ', '°C'] as const;
const BLANK = { meter: '', value: '', expanded: '' };

function Pairs({ pairs, unit }: { pairs: ReturnType<typeof compareMeters>; unit: string }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Pair</th>
          <th className="num">Difference / {unit}</th>
          <th className="num">√(U₁² + U₂²)</th>
          <th className="num">Eₙ</th>
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {pairs.map((pair) => (
          <tr key={`${pair.a}/${pair.b}`}>
            <td>
              {pair.a} and {pair.b}
            </td>
            <td className="num">{pair.difference.toPrecision(3)}</td>
            <td className="num">{pair.combined.toPrecision(3)}</td>
            <td className="num">{pair.en.toFixed(2)}</td>
            <td className={pair.agrees ? '' : 'text-missed'}>
              {pair.agrees ? 'agree' : 'disagree'}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Meters in one circuit: each reading with its stated accuracy, pairs judged as they are typed. */
export function ComparisonPanel({ kept }: { kept: MetersView['comparisons'] }) {
  const { run, busy, problem, setProblem } = useAct();
  const [title, setTitle] = useState('');
  const [unit, setUnit] = useState<(typeof UNITS)[number]>('V');
  const [rows, setRows] = useState([BLANK, BLANK]);
  const readings = useMemo(
    () =>
      rows.flatMap(({ meter, value, expanded }) => {
        const [v, u] = [typedNumber(value), typedNumber(expanded)];
        return meter.trim() !== '' && v !== null && u !== null && Number.isFinite(v) && u > 0
          ? [{ meter: meter.trim(), value: v, expanded: u }]
          : [];
      }),
    [rows],
  );
  const change = (at: number, patch: Partial<typeof BLANK>) =>
    setRows(rows.map((row, i) => (i === at ? { ...row, ...patch } : row)));
  const keep = () => {
    const begun = rows.findIndex(
      (row, i) =>
        Object.values(row).some((text) => text.trim() !== '') &&
        !readings.some((reading) => reading.meter === rows[i]!.meter.trim()),
    );
    if (begun >= 0)
      return setProblem(
        `Line ${begun + 1}: expected the meter, its reading and its accuracy (±) as numbers.`,
      );
    run(
      (key) => addComparisonAct({ title, unit, readings }, key),
      () => {
        setTitle('');
        setRows([BLANK, BLANK]);
      },
    );
  };
  return (
    <div className="space-y-4">
      <form
        className="space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <div className="flex flex-wrap gap-3">
          <Label text="What was compared" className="min-w-52 flex-1">
            <Input value={title} onChange={(event) => setTitle(event.target.value)} />
          </Label>
          <Label text="Unit">
            <Choice value={unit} onValue={(next) => setUnit(next as typeof unit)}>
              {UNITS.map((name) => (
                <Option key={name}>{name}</Option>
              ))}
            </Choice>
          </Label>
        </div>
        {rows.map((row, i) => (
          <div key={i} className="grid grid-cols-[minmax(0,1fr)_9rem_9rem] gap-2">
            {(
              [
                ['meter', `Meter ${i + 1}`],
                ['value', `Reading / ${unit}`],
                ['expanded', `Accuracy ± / ${unit}`],
              ] as const
            ).map(([field, words]) => (
              <label key={field}>
                <span className={i === 0 ? 'mb-1 block text-quiet' : 'sr-only'}>{words}</span>
                <Input
                  className={field === 'meter' ? '' : 'text-right tabular-nums'}
                  inputMode={field === 'meter' ? undefined : 'decimal'}
                  aria-label={field === 'meter' ? words : `${words}, meter ${i + 1}`}
                  value={row[field]}
                  onChange={(event) => change(i, { [field]: event.target.value })}
                />
              </label>
            ))}
          </div>
        ))}
        <div className="flex gap-2">
          <Button look="bare" onClick={() => setRows([...rows, BLANK])}>
            One more meter
          </Button>
          <Button type="submit" disabled={busy || readings.length < 2}>
            Keep the comparison
          </Button>
        </div>
        {problem && <Problem>{problem}</Problem>}
        {readings.length >= 2 && <Pairs pairs={compareMeters(readings)} unit={unit} />}
      </form>
      {kept.map((row) => (
        <Fold
          key={row.id}
          title={
            <>
              {row.title}{' '}
              <span className="text-quiet">
                {' '}
                <LabDay at={row.at} />, {row.person}:{' '}
                {row.pairs.every((pair) => pair.agrees)
                  ? 'all agree'
                  : `${row.pairs.filter((pair) => !pair.agrees).length} of ${row.pairs.length} pairs disagree`}{' '}
              </span>
            </>
          }
        >
          <Pairs pairs={row.pairs} unit={row.unit} />
        </Fold>
      ))}
    </div>
  );
}
