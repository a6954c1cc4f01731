/** How a cell is held while it is tested (handbook, Safety, last line: schools differ). */
export const CLAMPINGS = ['fixture', 'free'] as const;
/** In a fixture at the force of the data sheet, or free. */
export type Clamping = (typeof CLAMPINGS)[number];

/** Words of each, as on screen and on reports. */
export const CLAMPING_WORDS: Readonly<Record<Clamping, string>> = {
  fixture: 'in a fixture at the data sheet’s force',
  free: 'free',
};

/** What a model’s data sheet says of holding its cells. */
export interface HeldModel {
  format: 'cylinder' | 'prism' | 'pouch';
  /** Clamping force the data sheet states, N; null where it states none. */
  clampForceN: number | null;
}

/** How a data sheet means its figures: clamped where it states a force; null where it says nothing. */
export const clampingOfSheet = ({ format, clampForceN }: HeldModel): Clamping | null =>
  format !== 'cylinder' && clampForceN !== null ? 'fixture' : null;

/**
 * How a run is done: as its recipe says; else clamped where the data sheet states a force, and free.
 * @returns null for a round cell, which nobody clamps.
 */
export function clampingOfRun(recipe: Clamping | null, model: HeldModel): Clamping | null {
  if (model.format === 'cylinder') return null;
  return recipe ?? clampingOfSheet(model) ?? 'free';
}

/**
 * What a test differs in from a claim by how the cell was held, in words; null for nothing. No number is
 * put on it: what a fixture does to a capacity is not agreed on.
 * @param claimed null where neither claim nor data sheet says. @param done null where nobody recorded it.
 */
export function clampingDifference(claimed: Clamping | null, done: Clamping | null): string | null {
  if (claimed === null || claimed === done) return null;
  if (done === null)
    return `Claimed with the cell held ${CLAMPING_WORDS[claimed]}; how it was held in the test is not recorded.`;
  return `Claimed with the cell held ${CLAMPING_WORDS[claimed]}, tested ${CLAMPING_WORDS[done]}: practitioners differ on what that does, so no number is put on it.`;
}
