import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, optional, reference, required } from './columns';

const { DATEONLY, DOUBLE, INTEGER, STRING, TEXT } = DataTypes;
const whole = INTEGER.UNSIGNED;

/** Taken back with a reason rather than taken away. */
const takenBack = {
  takenBackAt: optional(DataTypes.DATE(3)),
  takenBackBy: reference('people', true),
  takenBackWhy: optional(STRING(400)),
};

/** Lots from before the app, what others say of suppliers, and the rest of a lot’s books. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const own = { charset: 'utf8mb4', engine: 'InnoDB' };
  await queryInterface.createTable(
    'earlier_lots',
    {
      id,
      supplierId: reference('suppliers'),
      title: required(STRING(120)),
      model: required(STRING(120)),
      chemistry: optional(STRING(20)),
      arrivedOn: required(DATEONLY),
      cells: required(whole),
      judged: required(whole),
      met: required(whole),
      margin: optional(DOUBLE),
      dead: optional(whole),
      ageMonths: optional(DOUBLE),
      copies: optional(whole),
      daysToDeliver: optional(whole),
      claimedKwh: optional(DOUBLE),
      goodKwh: optional(DOUBLE),
      landedCents: optional(whole),
      disputeOutcome: optional(STRING(200)),
      personId: reference('people'),
      at,
      ...takenBack,
    },
    own,
  );
  await queryInterface.createTable(
    'supplier_notes',
    {
      id,
      supplierId: reference('suppliers'),
      isHearsay: required(DataTypes.BOOLEAN),
      text: required(TEXT),
      source: optional(STRING(200)),
      personId: reference('people'),
      at,
      ...takenBack,
    },
    own,
  );
  const money = { type: whole, allowNull: false, defaultValue: 0 };
  for (const [table, column, type] of [
    ['settings', 'targetCentsPerKwh', optional(whole)],
    // How much of the house’s currency one of the order’s was worth, and on which day.
    ['lot_books', 'rate', optional(DOUBLE)],
    ['lot_books', 'rateOn', optional(DATEONLY)],
    ['lot_books', 'benchCentsPerHour', money],
    ['lot_books', 'centsPerKwh', money],
    ['lot_books', 'claimedCycles', optional(whole)],
    // Days until the money, where the goods go back and where they stay.
    ['lot_books', 'returnDays', optional(whole)],
    ['lot_books', 'partialDays', optional(whole)],
  ] as const)
    await queryInterface.addColumn(table, column, type);
}
