'use client';

import {
  type LogMapping,
  type LogSketch,
  MAPPABLE_ROLES,
  type Role,
  UNITS_OF_ROLE,
} from '@dusk-tally/core/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { keepMappingAct } from './acts';
import { Choice, Option } from '@/kit/choice';
import { Table } from '@/kit/table';

const ROLE_WORDS: Record<Role, string> = {
  ignored: 'not used',
  time: 'time',
  date: 'date beside a clock',
  voltage: 'voltage',
  current: 'current',
  temperature: 'temperature',
  counterAh: 'charge counter',
  counterWh: 'energy counter',
  power: 'power',
  mode: 'charge, rest or discharge',
  step: 'step number',
  cellVoltage: 'voltage of one cell',
};

const SIGN = { auto: null, discharge: true, charge: false } as const;

/** Gives each column of a log its meaning and unit; remembered for every file of this shape. */
export function MappingPanel({
  sketch,
  fileName,
  done,
}: {
  sketch: LogSketch;
  fileName: string;
  done: (mapping: LogMapping) => void;
}) {
  const [columns, setColumns] = useState<LogMapping['columns']>(() =>
    sketch.columns.map(({ role, unit }) => ({
      role,
      unit: unit && UNITS_OF_ROLE[role]?.includes(unit.symbol) ? unit.symbol : null,
    })),
  );
  const [sign, setSign] = useState<keyof typeof SIGN>('auto');
  const { run, busy, problem } = useAct();
  const change = (index: number, patch: Partial<LogMapping['columns'][number]>) =>
    setColumns(columns.map((column, i) => (i === index ? { ...column, ...patch } : column)));
  const keep = () => {
    const mapping = { columns, positiveDischarges: SIGN[sign] };
    run(
      (key) => keepMappingAct({ shape: sketch.shape, fileName, mapping }, key),
      () => done(mapping),
    );
  };
  return (
    <div className="rounded-sm border border-rule bg-wash p-3" data-testid="mapping">
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Columns of the log">
        <Table className="w-full text-[0.85rem]">
          <thead>
            <tr className="align-top">
              {sketch.columns.map((column, i) => (
                <th key={i} className="min-w-32 p-1 text-left font-normal">
                  <span className="block truncate font-semibold" title={column.header}>
                    {column.header || `column ${i + 1}`}
                  </span>
                  <Choice
                    className="mt-1 min-h-8 py-0.5"
                    label={`What ${column.header || `column ${i + 1}`} is`}
                    value={columns[i]!.role}
                    onValue={(next) => change(i, { role: next as Role, unit: null })}
                  >
                    {MAPPABLE_ROLES.map((role) => (
                      <Option key={role} value={role}>
                        {ROLE_WORDS[role]}
                      </Option>
                    ))}
                  </Choice>
                  {UNITS_OF_ROLE[columns[i]!.role] && (
                    <Choice
                      className="mt-1 min-h-8 py-0.5"
                      label={`Unit of ${column.header || `column ${i + 1}`}`}
                      value={columns[i]!.unit ?? ''}
                      onValue={(next) => change(i, { unit: next || null })}
                    >
                      <Option value="">unit not said</Option>
                      {UNITS_OF_ROLE[columns[i]!.role]!.map((unit) => (
                        <Option key={unit}>{unit}</Option>
                      ))}
                    </Choice>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sketch.rows.map((row, r) => (
              <tr key={r} className="border-t border-rule">
                {sketch.columns.map((_, i) => (
                  <td key={i} className="max-w-48 truncate p-1 tabular-nums">
                    {row[i] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          <span className="text-quiet">Positive current</span>
          <Choice
            className="w-72"
            value={sign}
            onValue={(next) => setSign(next as keyof typeof SIGN)}
          >
            <Option value="auto">is found out from the voltage</Option>
            <Option value="discharge">discharges</Option>
            <Option value="charge">charges</Option>
          </Choice>
        </label>
        <Button disabled={busy} onClick={keep}>
          Read it so, and every file of this shape
        </Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
