import { randomUUID } from 'node:crypto';
import { type Condition, SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import { beforeAll } from 'vitest';
import type { z } from 'zod';
import { recordInspection } from '../src/arrivals';
import { recordReadings } from '../src/evidence';
import type { schemeFields } from '../src/inputs';
import { gradeSchemes, saveScheme, tryScheme } from '../src/verdicts';
import { fresh, ids, lines, logOf, lotId, take, useHoldsLab } from './holds-lab';

export const { version: _, ...SHIPPED } = SHIPPED_SCHEME;
/** A scheme as a form gives it. */
export type Fields = z.input<typeof schemeFields>;
export const page = () => gradeSchemes(fresh.lab, fresh.admin, {});
export const seenOf = async (scope: string) =>
  (await page()).schemes.find((one) => one.scope === scope)?.version ?? 0;
export const save = async (scheme: Fields, scope = 'house') =>
  saveScheme(fresh.lab, fresh.admin, {
    scope,
    seen: await seenOf(scope),
    scheme,
    reason: 'tried before',
  });
export const tried = (scheme: Fields, scope = 'house') =>
  tryScheme(fresh.lab, fresh.admin, { scope, scheme });
export const grades = async () => new Map((await lines()).map(({ id, grade }) => [id, grade]));

/** Grades with another limit of the best one. */
export const withFirst = (conditions: Condition[]): Fields => ({
  ...SHIPPED,
  grades: [{ name: 'First', conditions }, ...SHIPPED.grades.slice(1)],
});

/** A lot of which some cells are measured and differ, for tests of grades; call it at the top of the file. */
export function useGradesLab(): void {
  useHoldsLab();
  beforeAll(async () => {
    // Six cells are measured; readings, findings and a short cell make the others differ.
    await take(6, logOf(101, 40));
    await take(7, logOf(86, 41));
    await take(8, logOf(64, 42));
    await recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: ids.slice(0, 9).map((cellId, i) => ({
        cellId,
        kind: 'acResistance' as const,
        value: 0.41 + 0.03 * i,
        decimals: 2,
        clientKey: randomUUID(),
      })),
    });
    await recordInspection(fresh.lab, fresh.admin, {
      lotId,
      clientKey: randomUUID(),
      marks: [
        { act: 'clear', cellIds: [ids[0]!] },
        { act: 'finding', cellIds: [ids[1]!], code: 'corrosion' },
        { act: 'finding', cellIds: [ids[2]!], code: 'leaking' },
      ],
    });
  });
}
