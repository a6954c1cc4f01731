import type { Transaction } from './connection';
import { Session } from './session';
import { Table } from './table';

const isBindable = (value: unknown): value is Table<object> | Tables | Session =>
  value instanceof Table || value instanceof Tables || value instanceof Session;

/** Tables that belong together. */
export abstract class Tables {
  constructor(protected readonly session: Session) {}

  /** The same tables bound to a transaction: whatever is read or written through them is inside it. */
  within(transaction: Transaction): this {
    const bound = Object.create(Object.getPrototypeOf(this) as object) as this;
    const own: [string, unknown][] = Object.entries(this as object);
    for (const [name, value] of own)
      Object.defineProperty(bound, name, {
        enumerable: true,
        value: isBindable(value) ? value.within(transaction) : value,
      });
    return bound;
  }
}
