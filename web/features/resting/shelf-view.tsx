'use client';

import { REST_OUTCOMES } from '@dusk-tally/core/resting';
import type { ShelfLine } from '@dusk-tally/lab/resting';
import { Link } from '@/kit/link';
import { type KeyboardEvent, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Input, Label } from '@/kit/form-parts';
import { LabDay } from '@/kit/lab-time';
import { OutboxLine } from '@/kit/outbox-line';
import { NumberInput } from '@/kit/quantity-field';
import { useScans } from '@/kit/scan-listener';
import { Table } from '@/kit/table';
import { typedNumber } from '@/kit/typed-number';
import { daysWords, groupOf, grouped, GROUP_WORDS } from './shelf-groups';
import { TakeOff } from './take-off';
import { useShelf } from './use-shelf';

type Shelf = ReturnType<typeof useShelf>;

/** What was lost so far and how that stands in the lot, or what the rest came to. */
function Standing({ line }: { line: ShelfLine }) {
  const { outcome, detail } = line;
  const lost = detail.lossV === null ? null : `lost ${(1000 * detail.lossV).toFixed(1)} mV`;
  if (outcome !== null) {
    const { words, follows } = REST_OUTCOMES[outcome];
    const tone = outcome === 'keep' ? 'text-met' : 'text-missed';
    return (
      <span title={follows}>
        <span className={`font-medium ${tone}`}>{words}</span>
        {lost && <span className="text-quiet">, {lost}</span>}
      </span>
    );
  }
  if (lost === null)
    return (
      <span className="text-quiet">{detail.counted === 0 ? 'not read yet' : 'read once'}</span>
    );
  return (
    <span title={detail.refused ?? undefined}>
      {lost}
      {detail.isFastLoser && <span className="text-missed">, faster than its lot</span>}
      {detail.z !== null && <span className="text-quiet"> (z {detail.z.toFixed(1)})</span>}
    </span>
  );
}

/** One cell: where it stands, and the field its voltage is typed into. */
function ShelfRow({
  line,
  shelf,
  now,
  onKeyDown,
}: {
  line: ShelfLine;
  shelf: Shelf;
  now: Date;
  onKeyDown: (event: KeyboardEvent<HTMLInputElement>, line: ShelfLine) => void;
}) {
  const { cellId, cell, label, lot, detail, fullAt, dueAt, endedAt } = line;
  const said = shelf.notes[cellId];
  const last = shelf.stored[cellId] ?? detail.voltageV;
  const [isMended, setMended] = useState(false);
  const isOpen = endedAt === null || isMended;
  return (
    <tr data-cell={cell}>
      <td>
        <Link href={`/cells/${cell}`} className="font-medium hover:underline">
          {cell}
        </Link>
        {label && <span className="block text-[0.78rem] text-quiet">{label}</span>}
        <span className="block text-[0.78rem] text-quiet xl:hidden">{lot.code}</span>
      </td>
      <td className="max-xl:hidden">
        {lot.code} <span className="text-quiet">{line.protocol}</span>
      </td>
      <td className="whitespace-nowrap max-sm:hidden">
        <LabDay at={dueAt} />
        <span className="block text-[0.78rem] text-quiet">full for {daysWords(fullAt, now)}</span>
      </td>
      <td className="num">{last === null ? '–' : last.toFixed(4)}</td>
      <td>
        {!isOpen && detail.voltageV !== null && !detail.retention && (
          <Button look="bare" onClick={() => setMended(true)}>
            Correct the reading
          </Button>
        )}
        {isOpen && (
          <>
            <Input
              data-shelf={cellId}
              aria-label={
                endedAt === null ? `Voltage of ${cell} / V` : `Corrected voltage of ${cell} / V`
              }
              aria-invalid={said !== undefined}
              className="min-h-11 w-32 tabular-nums"
              inputMode="decimal"
              autoComplete="off"
              value={shelf.typed[cellId] ?? ''}
              onChange={(event) => shelf.type(cellId, event.target.value)}
              onKeyDown={(event) => onKeyDown(event, line)}
            />
            {said && (
              <p role="alert" className="max-w-48 text-[0.85rem] text-doubt">
                {said.text}{' '}
                {said.isQuestion && (
                  <Button look="bare" className="underline" onClick={() => shelf.take(line)}>
                    Keep it
                  </Button>
                )}
                {said.offer !== undefined && (
                  <Button
                    look="bare"
                    className="underline"
                    onClick={() => shelf.type(cellId, String(said.offer))}
                  >
                    {said.offer} V
                  </Button>
                )}
              </p>
            )}
          </>
        )}
      </td>
      <td className="max-sm:hidden">
        <Standing line={line} />
      </td>
      <td className="whitespace-nowrap text-right">
        {endedAt === null && <TakeOff line={line} />}
      </td>
    </tr>
  );
}

/** Scan or Enter leads from cell to cell, in the order they are due. */
function useRound(lines: readonly ShelfLine[], shelf: Shelf) {
  const box = useRef<HTMLDivElement>(null);
  const order = lines.filter(({ endedAt }) => endedAt === null);
  const focus = (cellId: number | undefined) =>
    box.current?.querySelector<HTMLInputElement>(`[data-shelf="${cellId}"]`)?.focus();
  const step = (cellId: number, by: 1 | -1) =>
    focus(order[order.findIndex((one) => one.cellId === cellId) + by]?.cellId);
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, line: ShelfLine) => {
    if (event.key === 'Enter') {
      event.preventDefault();
      if (shelf.take(line) || (shelf.typed[line.cellId] ?? '').trim() === '') step(line.cellId, 1);
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      step(line.cellId, event.key === 'ArrowDown' ? 1 : -1);
    }
  };
  useScans((code) => {
    const found = order.find(({ cell, label }) => [cell, label].includes(code.toUpperCase()));
    if (!found) return null;
    focus(found.cellId);
    return `${found.cell}: its voltage, please.`;
  });
  const open = lines.filter(({ cellId }) => shelf.notes[cellId]);
  return { box, onKeyDown, open: open.length, toOpen: () => focus(open[0]?.cellId) };
}

/** The rest shelf by due day: scan, read, Enter, next. */
export function ShelfView({
  lines,
  meters,
  now,
}: {
  lines: readonly ShelfLine[];
  meters: readonly { id: number; name: string }[];
  now: Date;
}) {
  const [meter, setMeter] = useState(meters[0]?.id ?? 0);
  const [celsius, setCelsius] = useState('');
  const warm = typedNumber(celsius, 'temperatureC');
  const shelf = useShelf(meter || null, warm === null || Number.isNaN(warm) ? null : warm);
  const { box, onKeyDown, open, toOpen } = useRound(lines, shelf);
  return (
    <div ref={box} className="space-y-4">
      <div className="panel flex flex-wrap items-end gap-4 p-4">
        <Label text="Read with">
          <Choice className="min-w-56" value={meter} onValue={(next) => setMeter(Number(next))}>
            <Option value={0}>A voltmeter not described</Option>
            {meters.map(({ id, name }) => (
              <Option key={id} value={id}>
                {name}
              </Option>
            ))}
          </Choice>
        </Label>
        <Label text="Shelf / °C" className="w-32">
          <NumberInput
            quantity="temperatureC"
            text={celsius}
            onText={setCelsius}
            placeholder="not read"
          />
        </Label>
        <p className="flex-1 text-quiet">
          Scan a cell or press Enter for the next; what is asked about stays in its field until it
          is answered there. A reading before its day is kept, and does not end the rest.
        </p>
        <OutboxLine state={shelf.state} one="reading" many="readings" open={open} toOpen={toOpen} />
      </div>
      {grouped(lines).map(([group, own]) => (
        <section
          key={group}
          aria-label={GROUP_WORDS[group]}
          className="panel relative overflow-x-auto p-4"
        >
          <h2 className="font-semibold">
            {GROUP_WORDS[group]}{' '}
            <span className="font-normal text-quiet">
              {own.length} {own.length === 1 ? 'cell' : 'cells'}
            </span>
          </h2>
          <Table className="mt-1 w-full sm:table-fixed">
            <thead>
              <tr>
                <th className="w-24">Cell</th>
                <th className="w-36 max-xl:hidden">Lot</th>
                <th className="w-32 max-sm:hidden">Due</th>
                <th className="num w-20">Last / V</th>
                <th className="w-52">{groupOf(own[0]!) === 'done' ? '' : 'Now / V'}</th>
                <th className="max-sm:hidden">Standing</th>
                <th className="w-28">
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {own.map((line) => (
                <ShelfRow
                  key={line.restId}
                  line={line}
                  shelf={shelf}
                  now={now}
                  onKeyDown={onKeyDown}
                />
              ))}
            </tbody>
          </Table>
        </section>
      ))}
    </div>
  );
}
