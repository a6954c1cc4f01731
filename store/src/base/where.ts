import { Op, type WhereOptions } from 'sequelize';

/** How a column may compare, beside being a value or one of several. */
export interface Comparison<T> {
  /** Another value, or any at all where null is named. */
  not?: T | null;
  noneOf?: readonly T[];
  above?: T;
  below?: T;
  atLeast?: T;
  /** Text with `%` for anything. */
  like?: string;
}

/** What a column must be. */
export type Condition<T> = T | readonly NonNullable<T>[] | Comparison<NonNullable<T>>;

/** Conditions on rows, all of which must hold; typed by the columns, and without the library’s words. */
export type Where<Row> = { [Column in keyof Row]?: Condition<Row[Column]> } & {
  /** Of these at least one must hold, too. */
  anyOf?: readonly { [Column in keyof Row]?: Condition<Row[Column]> }[];
};

const OPERATORS = {
  not: Op.ne,
  noneOf: Op.notIn,
  above: Op.gt,
  below: Op.lt,
  atLeast: Op.gte,
  like: Op.like,
} as const satisfies Record<keyof Comparison<unknown>, symbol>;

const isComparison = (condition: unknown): condition is Comparison<unknown> =>
  typeof condition === 'object' &&
  condition !== null &&
  Object.getPrototypeOf(condition) === Object.prototype;

/** Whether a condition names no value at all: nothing can be one of none. */
const isNever = (condition: unknown): boolean => Array.isArray(condition) && condition.length === 0;

/** Whether no row can hold, so that nobody needs to be asked. */
export const holdsNowhere = <Row>({ anyOf, ...columns }: Where<Row>): boolean =>
  Object.values(columns).some(isNever) ||
  (anyOf !== undefined && anyOf.every((some) => Object.values(some).some(isNever)));

function columnsOf(columns: object): Record<string | symbol, unknown> {
  return Object.fromEntries(
    Object.entries(columns).flatMap(([name, condition]: [string, unknown]) => {
      if (condition === undefined) return [];
      if (!isComparison(condition)) return [[name, condition]];
      const compared = Object.entries(condition).map(([how, value]: [string, unknown]) => [
        OPERATORS[how as keyof typeof OPERATORS],
        value,
      ]);
      return [[name, Object.fromEntries(compared)]];
    }),
  );
}

/** The same conditions in the library’s words. */
export function conditionsOf<Row>({ anyOf, ...columns }: Where<Row>): WhereOptions {
  const all = columnsOf(columns);
  return anyOf ? { ...all, [Op.or]: anyOf.map(columnsOf) } : all;
}
