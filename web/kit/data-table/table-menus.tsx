'use client';

import { ArrowDown, ArrowUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from '../button';
import { type DataColumn, type Layout, moved, toggled } from './columns';
import { COLUMNS, FILE } from './menu-words';

const MENU =
  'z-[60] min-w-56 rounded-md border border-strong-rule bg-raised p-1 shadow-xl max-h-[70vh] overflow-y-auto';
const ITEM =
  'flex min-h-9 cursor-pointer items-center gap-2 rounded-sm px-2 outline-none data-[highlighted]:bg-ember-wash';

/** A button and its menu, which is open when it first comes. */
function Menu({ words, children }: { words: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger asChild>
        <Button look="bare">{words}</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Which columns stand in a table, and in which order. */
export function ColumnMenu<Row>({
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
    <Menu words={COLUMNS}>
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
    </Menu>
  );
}

/** A table as a file. */
export function FileMenu({ onFile }: { onFile: (kind: 'csv' | 'xlsx') => void }) {
  return (
    <Menu words={FILE}>
      <DropdownMenu.Item className={ITEM} onSelect={() => onFile('csv')}>
        as CSV
      </DropdownMenu.Item>
      <DropdownMenu.Item className={ITEM} onSelect={() => onFile('xlsx')}>
        as XLSX
      </DropdownMenu.Item>
    </Menu>
  );
}
