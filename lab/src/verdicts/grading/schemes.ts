import { type GradeScheme, SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import type { CellModelRow, GradeSchemeRow, Transaction } from '@dusk-tally/store';
import type { Lab } from '../../shared';

/** A scheme, and for which cells it holds. */
export interface ScopedScheme extends GradeScheme {
  /** `house`, `chemistry:…` or `model:…`. */
  scope: string;
}

/** Scopes a model’s cells are graded by, the narrowest first. */
export const scopesOf = ({ id, chemistry }: Pick<CellModelRow, 'id' | 'chemistry'>): string[] => [
  `model:${id}`,
  `chemistry:${chemistry}`,
  'house',
];

export const schemeOf = ({ scope, name, schemeVersion, body }: GradeSchemeRow): ScopedScheme => ({
  ...body,
  name,
  version: schemeVersion,
  scope,
});

/** The scheme that ships, as the house’s. */
export const HOUSE: ScopedScheme = { ...SHIPPED_SCHEME, scope: 'house' };

/** Newest version of the scheme of each scope that has one; ended ones among them. */
export async function newestSchemes(
  lab: Lab,
  transaction?: Transaction,
  scopes?: readonly string[],
): Promise<Map<string, GradeSchemeRow>> {
  const rows = await lab.store.grading.schemes.find(scopes ? { scope: [...scopes] } : {}, {
    transaction,
    order: [['id', 'ASC']],
  });
  return new Map(rows.map((row) => [row.scope, row]));
}

/** The scheme cells of a model are graded by: its own, else its chemistry’s, else the house’s. */
export async function schemeFor(
  lab: Lab,
  model: Pick<CellModelRow, 'id' | 'chemistry'>,
  transaction?: Transaction,
): Promise<ScopedScheme> {
  const scopes = scopesOf(model);
  const newest = await newestSchemes(lab, transaction, scopes);
  for (const scope of scopes) {
    const row = newest.get(scope);
    if (row && !row.ended) return schemeOf(row);
  }
  return HOUSE;
}
