/** What a reading was taken for (handbook, chapter 4): one table, one purpose. */
export const READING_PURPOSES = {
  arrival: { words: 'on arrival', says: 'decides triage and the spread of the lot' },
  rest: { words: 'while it rests', says: 'counts for self-discharge; never changes triage' },
  stock: { words: 'in store', says: 'tells how it keeps on the shelf' },
  set: { words: 'for a set', says: 'tells how it stands among the cells of its set' },
} as const;
/** What a reading was taken for (handbook, chapter 4). */
export type ReadingPurpose = keyof typeof READING_PURPOSES;
/** The purposes in the order people meet them. */
export const READING_PURPOSE_CODES = Object.keys(READING_PURPOSES) as ReadingPurpose[];

/**
 * Purpose of a reading of which nobody said what it was for: of arrival until the first run of its
 * cell, of store after it.
 */
export const usualPurpose = (hasRun: boolean): ReadingPurpose => (hasRun ? 'stock' : 'arrival');
