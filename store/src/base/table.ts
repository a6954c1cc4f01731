import {
  type Attributes,
  DataTypes,
  type Model,
  type ModelStatic,
  type Order,
  type Sequelize,
  Transaction,
} from 'sequelize';
import type { Session } from './session';
import { conditionsOf, holdsNowhere, type Where } from './where';

/** Columns of a row that hold JSON as text. */
type JsonKeys<Row> = readonly (keyof Row & string)[];

/** Rows written by one statement: few enough that others are answered in between. */
const ROWS_AT_ONCE = 200;

/** Row as passed to insert: the database gives `id`, and `version` starts at 1. */
export type NewRow<Row> = Omit<Row, 'id' | 'version'>;

interface FindOptions<Row> {
  transaction?: Transaction;
  order?: [keyof Row & string, 'ASC' | 'DESC'][];
  limit?: number;
  /** Only these columns. */
  columns?: (keyof Row & string)[];
  /** Locks the rows until the transaction ends. */
  forUpdate?: boolean;
}

/** One table with typed rows; JSON columns are turned to and from text here. */
export class Table<Row extends object> {
  private readonly model: ModelStatic<Model>;
  /** Columns that the driver gives as 0 and 1. */
  private readonly flags: string[];
  /** Columns of money, which the driver gives as numbers; rows hold decimal text. */
  private readonly money: string[];

  constructor(
    private readonly session: Session,
    readonly name: string,
    columns: Record<keyof Row & string, unknown>,
    private readonly json: JsonKeys<Row> = [],
  ) {
    const keysOf = (wanted: unknown) =>
      Object.entries<unknown>(columns).flatMap(([key, type]) => (type === wanted ? [key] : []));
    this.flags = keysOf(columnTypes.flag);
    this.money = keysOf(columnTypes.money);
    // Sequelize writes into the definitions it is given; each table gets its own.
    const own = Object.fromEntries(
      Object.entries<unknown>(columns).map(([key, type]) => [
        key,
        isDefinition(type) ? { ...type } : type,
      ]),
    );
    this.model = session.sequelize.define(name, own as Parameters<Sequelize['define']>[1], {
      tableName: name,
    });
  }

  /** The same table bound to a transaction. */
  within(transaction: Transaction): this {
    const bound = Object.create(this) as this;
    Object.defineProperty(bound, 'session', { value: this.session.within(transaction) });
    return bound;
  }

  private read(row: Record<string, unknown>): Row {
    for (const key of this.flags) if (typeof row[key] === 'number') row[key] = row[key] !== 0;
    for (const key of this.money) {
      const amount = row[key];
      if (typeof amount === 'number') row[key] = amount.toFixed(2);
    }
    for (const key of this.json) {
      const text = row[key];
      if (typeof text === 'string') row[key] = JSON.parse(text);
    }
    return row as Row;
  }

  private write(row: Partial<Row>): Attributes<Model> {
    const written: Record<string, unknown> = { ...row };
    for (const key of this.json) {
      if (key in written) written[key] = JSON.stringify(written[key] ?? null);
    }
    return written;
  }

  async find(where: Where<Row>, options: FindOptions<Row> = {}): Promise<Row[]> {
    if (holdsNowhere(where)) return [];
    const rows: object[] = await this.model.findAll({
      where: conditionsOf(where),
      raw: true,
      transaction: this.session.of(options.transaction),
      order: options.order as Order | undefined,
      limit: options.limit,
      attributes: options.columns,
      lock: options.forUpdate ? Transaction.LOCK.UPDATE : undefined,
    });
    return rows.map((row) => this.read(row as Record<string, unknown>));
  }

  async one(where: Where<Row>, options: FindOptions<Row> = {}): Promise<Row | null> {
    return (await this.find(where, { ...options, limit: 1 }))[0] ?? null;
  }

  async count(where: Where<Row>, transaction?: Transaction): Promise<number> {
    if (holdsNowhere(where)) return 0;
    return this.model.count({
      where: conditionsOf(where),
      transaction: this.session.of(transaction),
    });
  }

  /** Inserts one row; returns it with its id, which the database gives where the row has none. */
  async insert(row: NewRow<Row> | Row, transaction?: Transaction): Promise<Row> {
    const made = await this.model.create(this.write(row as Partial<Row>), {
      transaction: this.session.of(transaction),
    });
    return this.read(made.get({ plain: true }) as Record<string, unknown>);
  }

  async insertMany(rows: NewRow<Row>[], transaction?: Transaction): Promise<void> {
    for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) {
      await this.model.bulkCreate(
        rows.slice(from, from + ROWS_AT_ONCE).map((row) => this.write(row as Partial<Row>)),
        { transaction: this.session.of(transaction) },
      );
    }
  }

  /** Inserts rows, replacing all columns of those whose primary key exists. */
  async replaceMany(rows: Row[], transaction?: Transaction): Promise<void> {
    const columns = Object.keys(this.model.getAttributes());
    for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) {
      await this.model.bulkCreate(
        rows.slice(from, from + ROWS_AT_ONCE).map((row) => this.write(row)),
        {
          transaction: this.session.of(transaction),
          updateOnDuplicate: columns,
        },
      );
    }
  }

  /** @returns how many rows changed. */
  async update(patch: Partial<Row>, where: Where<Row>, transaction?: Transaction): Promise<number> {
    if (holdsNowhere(where)) return 0;
    const [count] = await this.model.update(this.write(patch), {
      where: conditionsOf(where),
      transaction: this.session.of(transaction),
    });
    return count;
  }

  async remove(where: Where<Row>, transaction?: Transaction): Promise<number> {
    if (holdsNowhere(where)) return 0;
    return this.model.destroy({
      where: conditionsOf(where),
      transaction: this.session.of(transaction),
    });
  }
}

const isDefinition = (type: unknown): type is { type: unknown } =>
  typeof type === 'object' && type !== null && Object.getPrototypeOf(type) === Object.prototype;

const autoId = { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true, autoIncrement: true };
const own = (type: unknown) => ({ type, primaryKey: true });

/** Shorthand for column types in table definitions. */
export const columnTypes = {
  autoId,
  ownId: own(DataTypes.INTEGER.UNSIGNED),
  ownText: own(DataTypes.STRING(40)),
  whole: DataTypes.INTEGER.UNSIGNED,
  text: DataTypes.STRING(400),
  long: DataTypes.TEXT('long'),
  real: DataTypes.DOUBLE,
  money: DataTypes.DECIMAL(14, 2),
  flag: DataTypes.BOOLEAN,
  moment: DataTypes.DATE(3),
  day: DataTypes.DATEONLY,
  bytes: DataTypes.BLOB('long'),
  version: { type: DataTypes.INTEGER.UNSIGNED, defaultValue: 1 },
};
