'use client';

import { leadFromSpots, type LeadSpot } from '@dusk-tally/core/evidence';
import { formatNumber } from '@dusk-tally/core/units';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Beside } from '@/kit/panel-over';
import { typedNumber } from '@/kit/typed-number';
import { Table } from '@/kit/table';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';

/** A lead resistance with what is known of it. */
export interface FoundLead {
  mohm: number;
  standardUncertaintyMohm: number;
}

const COLUMNS = [
  ['currentA', 'Current / A'],
  ['testerV', 'Tester shows / V'],
  ['cellV', 'On the cell / V'],
] as const;
type Line = Record<(typeof COLUMNS)[number][0], string>;
const BLANK: Line = { currentA: '', testerV: '', cellV: '' };

/** Lead resistance from voltages read on the cell’s terminals beside what the tester shows. */
export function LeadSpots({ onFound }: { onFound: (lead: FoundLead) => void }) {
  const [open, setOpen] = useState(false);
  const [lines, setLines] = useState<Line[]>([BLANK, BLANK]);
  const change = (at: number, key: keyof Line, text: string) => {
    const next = lines.map((line, i) => (i === at ? { ...line, [key]: text } : line));
    setLines(next.every(({ cellV }) => cellV.trim() !== '') ? [...next, BLANK] : next);
  };
  const filled = lines.filter((line) => COLUMNS.some(([key]) => line[key].trim() !== ''));
  const spots = filled.map((line): LeadSpot => ({
    currentA: Math.abs(typedNumber(line.currentA) ?? NaN),
    testerV: typedNumber(line.testerV) ?? NaN,
    cellV: typedNumber(line.cellV) ?? NaN,
  }));
  const whole = spots.filter((spot) => Object.values(spot).every(Number.isFinite));
  const found = whole.length > 0 ? leadFromSpots(whole) : null;
  return (
    <Beside
      open={open}
      onOpen={setOpen}
      width="w-[26rem]"
      trigger={
        <Button look="bare" className="px-1.5 text-[0.82rem] underline">
          from spot readings
        </Button>
      }
    >
      <h3 className="font-semibold">Leads from spot readings</h3>
      <p className="text-[0.87rem] text-quiet">
        While the run goes on, read the voltage on the cell’s own terminals with another meter. Two
        currents tell the leads from the meters’ own difference; a line at 0 A does too.
      </p>
      <Table className="mt-2 w-full text-[0.87rem]">
        <thead>
          <tr>
            {COLUMNS.map(([key, head]) => (
              <th key={key} className="text-left font-normal text-quiet">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line, at) => (
            <tr key={at}>
              {COLUMNS.map(([key, head]) => (
                <td key={key} className="pr-2 pb-1">
                  <NumberInput
                    quantity={quantityOfHead(head)}
                    text={line[key]}
                    onText={(next) => change(at, key, next)}
                    className="w-full"
                    aria-label={`${head}, line ${at + 1}`}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <div role="status" className="mt-2">
        {whole.length < filled.length && (
          <p className="text-doubt">
            Expected three numbers in each line; {filled.length - whole.length} not yet.
          </p>
        )}
        {found?.reason && <p className="text-doubt">{found.reason}</p>}
        {found && found.mohm !== null && (
          <p>
            {formatNumber(found.mohm, 2)} ± {formatNumber(2 * found.standardUncertaintyMohm, 2)} mΩ{' '}
            {found.offsetV !== null && (
              <span className="text-quiet">
                ; the meters differ by {formatNumber(1000 * found.offsetV, 1)} mV at no current
              </span>
            )}
          </p>
        )}
      </div>
      <div className="mt-2 flex justify-end gap-2">
        <Button look="bare" onClick={() => setOpen(false)}>
          Close
        </Button>
        <Button
          look="primary"
          disabled={!found || found.mohm === null}
          onClick={() => {
            if (!found || found.mohm === null) return;
            onFound(found);
            setOpen(false);
          }}
        >
          Use it
        </Button>
      </div>
    </Beside>
  );
}
