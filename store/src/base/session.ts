import type { QueryOptions, QueryOptionsWithType, QueryTypes, Sequelize } from 'sequelize';
import type { Transaction } from './connection';

type Asked<Kind extends QueryTypes> = QueryOptionsWithType<Kind> & QueryOptions;

/** A way to the database: inside a transaction everything goes through it, said or not. */
export class Session {
  constructor(
    readonly sequelize: Sequelize,
    readonly transaction: Transaction | undefined = undefined,
  ) {}

  within(transaction: Transaction): Session {
    return new Session(this.sequelize, transaction);
  }

  /** Rows of a question. */
  rows<Row extends object>(sql: string, options: Asked<QueryTypes.SELECT>): Promise<Row[]> {
    return this.sequelize.query<Row>(sql, {
      ...options,
      transaction: this.of(options.transaction),
    });
  }

  /** Carries a statement out. */
  async run(
    sql: string,
    options: Asked<
      QueryTypes.INSERT | QueryTypes.UPDATE | QueryTypes.BULKUPDATE | QueryTypes.BULKDELETE
    >,
  ): Promise<void> {
    await this.sequelize.query(sql, { ...options, transaction: this.of(options.transaction) });
  }

  /** The transaction that counts: the one that was named, else that of the session. */
  of(named: Transaction | null | undefined): Transaction | undefined {
    return named ?? this.transaction;
  }
}
