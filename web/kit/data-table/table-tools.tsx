'use client';

import { Copy } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { say } from '../say';
import { Button } from '../button';
import { Input } from '../form-parts';
import { atMouseDown, onDemand } from '../on-demand';
import type { DataColumn, Layout } from './columns';
import { save } from '../save-file';
import { COLUMNS, FILE } from './menu-words';
import { asCsv, asTsv, asXlsx, plainRows } from './export-rows';

const useMenus = onDemand(() => import('./table-menus'));

/** A button whose menu comes when it is first pressed. */
function MenuButton({
  words,
  menu,
}: {
  words: ReactNode;
  menu: (menus: NonNullable<ReturnType<typeof useMenus>>) => ReactNode;
}) {
  const [isAsked, setIsAsked] = useState(false);
  const menus = useMenus(isAsked, () => setIsAsked(false));
  if (menus) return menu(menus);
  return (
    <Button
      look="bare"
      aria-haspopup="menu"
      aria-expanded={isAsked}
      onClick={() => setIsAsked(true)}
      onPointerDown={atMouseDown(() => setIsAsked(true))}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowDown') return;
        event.preventDefault();
        setIsAsked(true);
      }}
    >
      {words}
    </Button>
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
    say(`${body.length} ${body.length === 1 ? 'row' : 'rows'} copied; paste into a spreadsheet.`);
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
        <MenuButton
          words={COLUMNS}
          menu={({ ColumnMenu }) => (
            <ColumnMenu columns={columns} layout={layout} onLayout={onLayout} />
          )}
        />
        <Button look="bare" onClick={() => void copy()}>
          <Copy size={15} aria-hidden /> Copy
        </Button>
        <MenuButton
          words={FILE}
          menu={({ FileMenu }) => <FileMenu onFile={(kind) => void file(kind)} />}
        />
      </span>
    </div>
  );
}
