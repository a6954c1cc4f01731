import { DataTypes, type QueryInterface } from 'sequelize';
import {
  at,
  hash,
  id,
  json,
  makeAppendOnly,
  optional,
  reference,
  required,
  version,
} from './columns';

const { BLOB, BOOLEAN, DATEONLY, INTEGER, STRING } = DataTypes;

/** Disputes with suppliers: what happened, letters, papers, and files made of them. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const own = { charset: 'utf8mb4', engine: 'InnoDB' };
  const who = { personId: reference('people'), at };
  await queryInterface.createTable(
    'disputes',
    {
      id,
      lotId: reference('lots'),
      stage: required(STRING(12)),
      remedy: required(STRING(20)),
      askCents: required(INTEGER.UNSIGNED),
      language: required(STRING(2)),
      gotCents: optional(INTEGER),
      version,
      ...who,
    },
    own,
  );
  await queryInterface.addIndex('disputes', ['lotId']);
  await queryInterface.createTable(
    'dispute_events',
    {
      id,
      disputeId: reference('disputes'),
      stage: required(STRING(12)),
      day: required(DATEONLY),
      text: required(STRING(2000)),
      cents: optional(INTEGER),
      ...who,
    },
    own,
  );
  await queryInterface.createTable(
    'dispute_letters',
    {
      id,
      disputeId: reference('disputes'),
      title: required(STRING(200)),
      body: json,
      isSent: required(BOOLEAN),
      version,
      ...who,
    },
    own,
  );
  await queryInterface.createTable(
    'dispute_papers',
    {
      id,
      disputeId: reference('disputes'),
      name: required(STRING(255)),
      type: required(STRING(100)),
      bytes: required(BLOB('long')),
      size: required(INTEGER.UNSIGNED),
      sha256: hash,
      ...who,
    },
    own,
  );
  await queryInterface.createTable(
    'dispute_files',
    {
      id,
      disputeId: reference('disputes'),
      number: { ...required(STRING(40)), unique: true },
      language: required(STRING(2)),
      snapshot: json,
      sha256: hash,
      ...who,
    },
    own,
  );
  await makeAppendOnly(queryInterface, ['dispute_events', 'dispute_papers', 'dispute_files']);
}
