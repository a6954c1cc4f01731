'use client';

import { ArrowDown, ArrowUp, Columns3, Copy, Download } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { Button } from '../button';
import { Input } from '../form-parts';
import { type DataColumn, type Layout, moved, toggled } from './columns';
import { save } from '../save-file';
import { asCsv, asTsv, asXlsx, plainRows } from './export-rows';

const MENU =
  'z-[60] min-w-56 rounded-md border border-strong-rule bg-raised p-1 shadow-xl max-h-[70vh] overflow-y-auto';
const ITEM =
  'flex min-h-9 cursor-pointer items-center gap-2 rounded-sm px-2 outline-none data-[highlighted]:bg-ember-wash';

function ColumnMenu<Row>({
  columns,
  layout,
  onLayout,
}: {
  columns: readonly DataColumn<Row>[];
  layout: Layout;
  onLayout: (layout: Layout) => void;
}) {
  const headOf = new Map(columns.map(({ key, head }) => [key, head]));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="bare">
          <Columns3 size={15} aria-hidden /> Columns
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
          {layout.order.map((key) => {
            const shown = !layout.hidden.has(key);
            return (
              <DropdownMenu.Group key={key} className="flex items-center">
                <DropdownMenu.CheckboxItem
                  checked={shown}
                  onCheckedChange={() => onLayout(toggled(layout, key))}
                  // The list stays open while several are chosen.
                  onSelect={(event) => event.preventDefault()}
                  className={`${ITEM} flex-1`}
                >
                  <span aria-hidden className="w-3">
                    {shown ? '✓' : ''}
                  </span>
                  {headOf.get(key)}
                </DropdownMenu.CheckboxItem>
                {shown &&
                  ([-1, 1] as const).map((by) => (
                    <DropdownMenu.Item
                      key={by}
                      aria-label={`${headOf.get(key)} ${by < 0 ? 'further to the front' : 'further to the end'}`}
                      onSelect={(event) => {
                        event.preventDefault();
                        onLayout(moved(layout, key, by));
                      }}
                      className={ITEM}
                    >
                      {by < 0 ? <ArrowUp size={13} /> : <ArrowDown size={13} />}
                    </DropdownMenu.Item>
                  ))}
              </DropdownMenu.Group>
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Finding, columns, copying and files; what is chosen goes out, else all that is shown. */
export function TableTools<Row>({
  label,
  columns,
  layout,
  rows,
  find,
  onFind,
  onLayout,
  children,
}: {
  label: string;
  columns: readonly DataColumn<Row>[];
  layout: Layout;
  /** As they would go out. */
  rows: readonly Row[];
  find: string;
  onFind: (text: string) => void;
  onLayout: (layout: Layout) => void;
  children?: ReactNode;
}) {
  const headed = () => {
    const byKey = new Map(columns.map((column) => [column.key, column]));
    return plainRows(
      layout.order.filter((key) => !layout.hidden.has(key)).map((key) => byKey.get(key)!),
      rows,
    );
  };
  const copy = async () => {
    const { heads, body } = headed();
    await navigator.clipboard.writeText(asTsv(heads, body));
    toast(`${body.length} ${body.length === 1 ? 'row' : 'rows'} copied; paste into a spreadsheet.`);
  };
  const file = async (kind: 'csv' | 'xlsx') => {
    const { heads, body } = headed();
    const blob =
      kind === 'csv'
        ? new Blob([asCsv(heads, body)], { type: 'text/csv;charset=utf-8' })
        : await asXlsx(label, heads, body);
    save(blob, `${label.toLowerCase().replace(/[^a-z0-9-]+/g, '-')}.${kind}`);
  };
  return (
    <div className="mb-3 flex flex-wrap items-center gap-1">
      {children}
      <span className="ml-auto flex flex-wrap items-center gap-1">
        <Input
          type="search"
          className="max-w-44"
          aria-label={`Find in ${label}`}
          placeholder="Find in the table"
          value={find}
          onChange={(event) => onFind(event.target.value)}
        />
        <ColumnMenu columns={columns} layout={layout} onLayout={onLayout} />
        <Button look="bare" onClick={() => void copy()}>
          <Copy size={15} aria-hidden /> Copy
        </Button>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button look="bare">
              <Download size={15} aria-hidden /> File
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
              <DropdownMenu.Item className={ITEM} onSelect={() => void file('csv')}>
                as CSV
              </DropdownMenu.Item>
              <DropdownMenu.Item className={ITEM} onSelect={() => void file('xlsx')}>
                as XLSX
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </span>
    </div>
  );
}
