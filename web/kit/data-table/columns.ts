import type { ReactNode } from 'react';

/** What is sorted and exported of a row: words, a number, or nothing. */
export type Plain = string | number | null;

/** One column of a DataTable. */
export interface DataColumn<Row> {
  key: string;
  /** Its name, with the unit: `Capacity / Ah`. */
  head: string;
  /** px at first; people drag it wider or narrower. */
  width: number;
  /** Takes the room that is left. */
  grows?: boolean;
  num?: boolean;
  /** As shown. */
  cell: (row: Row) => ReactNode;
  /** As sorted, found, copied and exported. */
  plain: (row: Row) => Plain;
  /** What goes with it wherever it is copied or exported: its uncertainty, whether it is a bound. */
  beside?: readonly { head: string; plain: (row: Row) => Plain }[];
  /** Its order says nothing. */
  unsorted?: boolean;
  /** Not shown until it is chosen. */
  hiddenAtFirst?: boolean;
}

/** Which columns stand where; the rest is hidden. */
export interface Layout {
  order: readonly string[];
  hidden: ReadonlySet<string>;
}

/** What a table shows, as it stands in the address. */
export interface TableView {
  sort: string | null;
  falling: boolean;
  find: string;
  layout: Layout;
}

type Query = Pick<URLSearchParams, 'get'>;

/** The layout nobody has changed. */
export function firstLayout<Row>(columns: readonly DataColumn<Row>[]): Layout {
  return {
    order: columns.map(({ key }) => key),
    hidden: new Set(columns.filter(({ hiddenAtFirst }) => hiddenAtFirst).map(({ key }) => key)),
  };
}

/** Shown columns in their order as text: `number,grade`; null where it is the first layout. */
export function layoutText<Row>(
  columns: readonly DataColumn<Row>[],
  { order, hidden }: Layout,
): string | null {
  const shown = (layout: Layout) => layout.order.filter((key) => !layout.hidden.has(key)).join(',');
  const text = shown({ order, hidden });
  return text === shown(firstLayout(columns)) ? null : text;
}

/** Inverse of `layoutText`; names nobody knows are left out, and what is not named is hidden. */
export function layoutOf<Row>(columns: readonly DataColumn<Row>[], text: string | null): Layout {
  const known = columns.map(({ key }) => key);
  const named = [...new Set((text ?? '').split(','))].filter((key) => known.includes(key));
  if (named.length === 0) return firstLayout(columns);
  const rest = known.filter((key) => !named.includes(key));
  return { order: [...named, ...rest], hidden: new Set(rest) };
}

/** What the address says of a table; what it says wrong is as if it said nothing. */
export function viewOf<Row>(columns: readonly DataColumn<Row>[], query: Query): TableView {
  const sort = query.get('sort');
  const sortable = columns.some(({ key, unsorted }) => key === sort && !unsorted);
  return {
    sort: sortable ? sort : null,
    falling: query.get('falling') === '1',
    find: query.get('find') ?? '',
    layout: layoutOf(columns, query.get('columns')),
  };
}

/** A column moved one place towards the front or the end, among those shown. */
export function moved({ order, hidden }: Layout, key: string, by: -1 | 1): Layout {
  const shown = order.filter((one) => !hidden.has(one));
  const at = shown.indexOf(key);
  const to = at + by;
  if (at < 0 || to < 0 || to >= shown.length) return { order, hidden };
  [shown[at], shown[to]] = [shown[to]!, shown[at]!];
  return { order: [...shown, ...order.filter((one) => hidden.has(one))], hidden };
}

/** A column shown or hidden; the last one shown stays. */
export function toggled({ order, hidden }: Layout, key: string): Layout {
  const next = new Set(hidden);
  if (!next.delete(key)) next.add(key);
  return next.size === order.length ? { order, hidden } : { order, hidden: next };
}

/** Ascending; numbers inside words count as numbers: `B-9` stands before `B-10`. */
export function comparePlain(a: Plain, b: Plain): number {
  if (typeof a === 'number' && typeof b === 'number') return Number(a > b) - Number(a < b);
  return String(a).localeCompare(String(b), 'en', { numeric: true });
}

/** Whether a row has all words somewhere in its shown columns. */
export function hasWords<Row>(
  columns: readonly DataColumn<Row>[],
  row: Row,
  text: string,
): boolean {
  const whole = columns
    .map(({ plain }) => plain(row))
    .join('\n')
    .toLowerCase();
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => whole.includes(word));
}
