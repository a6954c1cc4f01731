import { createHash } from 'node:crypto';
import { canonicalJson, type Figure } from '@dusk-tally/core/units';
import type { FigureRow, NewRow } from '@dusk-tally/store';

/** SHA-256 of anything that can be canonical JSON. */
export function hashOf(value: unknown): string {
  return createHash('sha256').update(canonicalJson(value)).digest('hex');
}

/** A figure as a row, with the hash of everything it depends on. */
export function figureRow(
  figure: Figure,
  place: {
    cellId: number;
    lotId: number;
    runId: number | null;
    readingId: number | null;
    cutoffV: number | null;
  },
  input: unknown,
): NewRow<FigureRow> {
  return {
    ...place,
    quantity: figure.quantity,
    value: figure.value,
    unit: figure.unit,
    standardUncertainty: figure.standardUncertainty,
    bound: figure.bound,
    method: figure.method.name,
    methodVersion: figure.method.version,
    inputHash: hashOf({ method: figure.method, cutoffV: place.cutoffV, input }),
    detail: figure,
  };
}
