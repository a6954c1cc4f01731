import {
  type DataType,
  DataTypes,
  type ModelAttributeColumnOptions,
  type QueryInterface,
  QueryTypes,
} from 'sequelize';

/** Shorthand for columns of migrations. */
export const id = { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true, autoIncrement: true };
export const version = {
  type: DataTypes.INTEGER.UNSIGNED,
  allowNull: false,
  defaultValue: 1,
};
export const required = (type: unknown) =>
  ({ type: type as DataType, allowNull: false }) satisfies ModelAttributeColumnOptions;
export const optional = (type: unknown) =>
  ({ type: type as DataType, allowNull: true }) satisfies ModelAttributeColumnOptions;
export const at = required(DataTypes.DATE(3));
export const json = required(DataTypes.TEXT('long'));
export const hash = required(DataTypes.CHAR(64));
export const reference = (table: string, allowNull = false, key = 'id') => ({
  type: DataTypes.INTEGER.UNSIGNED,
  allowNull,
  references: { model: table, key },
  onDelete: 'RESTRICT',
});

export type Tables = [string, Record<string, ModelAttributeColumnOptions>][];

/** Lets the database itself refuse a change or removal of rows. */
export async function makeAppendOnly(
  queryInterface: QueryInterface,
  tables: string[],
): Promise<void> {
  for (const table of tables) {
    for (const verb of ['UPDATE', 'DELETE']) {
      await queryInterface.sequelize.query(
        `CREATE TRIGGER ${table}_no_${verb.toLowerCase()} BEFORE ${verb} ON ${table} FOR EACH ROW ` +
          `SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = '${table} is append-only'`,
        { type: QueryTypes.RAW },
      );
    }
  }
}
