'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react';
import { Choice, Option } from '@/kit/choice';
import { useScans } from '@/kit/scan-listener';
import { offerUndo } from '@/kit/undo-toast';
import { BLANK, type GridCell, type GridColumn, keyOf } from './entry-columns';
import { GridInput } from './grid-input';
import { nextPlace, type Walk } from './grid-walk';
import type { useGrid } from './use-grid';

/** Lines of a spreadsheet as they are pasted; null where it is one value, which the field takes. */
function pastedLines(text: string): string[][] | null {
  const lines = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  return lines.length === 1 && lines[0]!.length === 1 ? null : lines;
}

function Heads({
  columns,
  how,
  template,
}: {
  columns: readonly GridColumn[];
  how: ReturnType<typeof useGrid>['how'];
  template: { gridTemplateColumns: string };
}) {
  return (
    <div
      style={template}
      className="sticky top-0 z-10 grid border-b border-strong-rule bg-sheet text-[0.82rem] font-semibold text-quiet"
    >
      <span className="px-3 py-2">Cell</span>
      {columns.map(({ kind, head, bareUnits }) => (
        <span key={kind} className="px-3 py-2 text-right">
          {head}
          {bareUnits.length > 1 && (
            <Choice
              className="ml-2 inline-flex min-h-7 w-auto border-rule px-1.5 py-0 font-normal pointer-coarse:min-h-11"
              label={`A bare number under ${head} is in`}
              value={how.bare[kind] ?? bareUnits[0]!}
              onValue={(next) => how.setBare({ ...how.bare, [kind]: next })}
            >
              {bareUnits.map((unit) => (
                <Option key={unit} value={unit}>
                  typed in {unit}
                </Option>
              ))}
            </Choice>
          )}
        </span>
      ))}
    </div>
  );
}

/** Focus of the grid: at once where a place is drawn, else once it is. */
function useGridFocus(rows: number, columns: number) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  });
  const focus = (row: number, column: number) => {
    const to = {
      row: Math.max(0, Math.min(rows - 1, row)),
      column: Math.max(0, Math.min(columns - 1, column)),
    };
    const reach = (): boolean => {
      const input = scroller.current?.querySelector<HTMLInputElement>(
        `[data-at="${keyOf(to.row, to.column)}"]`,
      );
      input?.focus({ preventScroll: true });
      input?.select();
      return input !== undefined && input !== null;
    };
    // A quick hand types on without waiting.
    const reached = reach();
    virtual.scrollToIndex(to.row, { align: 'auto' });
    if (!reached) requestAnimationFrame(reach);
  };
  return { scroller, virtual, focus };
}

/** The fields of the grid, a row a cell: Enter moves on, arrows move, paste fills, undo undoes. */
export function GridRows({
  grid,
  cells,
  walk,
}: {
  grid: ReturnType<typeof useGrid>;
  cells: readonly GridCell[];
  walk: Walk;
}) {
  const { columns } = grid;
  const { scroller, virtual, focus } = useGridFocus(cells.length, columns.length);
  const [atRow, setAtRow] = useState(0);
  const template = {
    gridTemplateColumns: `11rem repeat(${columns.length}, minmax(${columns.length > 3 ? 9 : 11}rem, 1fr))`,
  };
  useScans((code) => {
    const row = cells.findIndex((cell) => cell.label === code || cell.number === code);
    if (row < 0) return `${code} is on no cell of this lot.`;
    focus(row, 0);
    return null;
  });
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
    const { value, selectionStart, selectionEnd } = event.currentTarget;
    if ((event.ctrlKey || event.metaKey) && event.key === 'z') {
      event.preventDefault();
      const at = grid.undo();
      return at ? focus(at.row, at.column) : undefined;
    }
    const caret = { atStart: selectionEnd === 0, atEnd: selectionStart === value.length };
    const next = nextPlace(event.key, { row, column }, caret, columns, walk);
    if (!next) return;
    event.preventDefault();
    if (grid.commit(row, column, value)) focus(next.row, next.column);
  };
  const onPaste = (event: ClipboardEvent, row: number, column: number) => {
    const lines = pastedLines(event.clipboardData.getData('text'));
    if (!lines) return;
    event.preventDefault();
    const stored = grid.paste(row, column, lines);
    if (stored > 0)
      offerUndo(`${stored} ${stored === 1 ? 'reading' : 'readings'} pasted.`, () => {
        const at = grid.undo();
        if (at) focus(at.row, at.column);
      });
  };
  return (
    <div ref={scroller} className="panel max-h-[calc(100dvh-9rem)] overflow-auto">
      <Heads columns={columns} how={grid.how} template={template} />
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index: row, start }) => (
          <div
            key={cells[row]!.id}
            ref={virtual.measureElement}
            data-index={row}
            className={`absolute inset-x-0 grid border-b border-rule ${atRow === row ? 'bg-ember-wash' : ''}`}
            style={{ ...template, transform: `translateY(${start}px)` }}
          >
            <span className="px-3 py-2 font-medium">
              {cells[row]!.number}
              <span className="block truncate text-[0.72rem] font-normal text-quiet">
                {cells[row]!.label}
              </span>
            </span>
            {columns.map(({ kind, head }, c) => (
              <GridInput
                key={kind}
                at={keyOf(row, c)}
                name={`${head}, ${cells[row]!.number}`}
                entry={grid.grid.entries.get(keyOf(row, c)) ?? BLANK}
                onFocus={() => {
                  setAtRow(row);
                  grid.look(row, c);
                }}
                onKeyDown={(event) => onKeyDown(event, row, c)}
                onPaste={(event) => onPaste(event, row, c)}
                onBlur={(text) =>
                  void (text !== grid.entryAt(keyOf(row, c)).text && grid.commit(row, c, text))
                }
                onKeep={() => {
                  if (grid.commit(row, c, grid.entryAt(keyOf(row, c)).text)) focus(row + 1, c);
                }}
                onSettle={(take) => {
                  grid.settle(keyOf(row, c), take);
                  focus(row + 1, c);
                }}
              />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}
