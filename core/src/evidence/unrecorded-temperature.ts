/** A result is carried over no more than this (handbook, chapter 3), K. */
export const MOST_KELVIN = 10;

/** Coldest and warmest a lab keeps its room, °C. */
export type RoomRange = readonly [number, number];

/** A temperature nobody recorded is within so much of the reference, K (house). */
export const UNRECORDED_K = 6;

/**
 * How far a temperature nobody recorded may be from a reference: by the lab’s own room where it keeps
 * one, else by the house’s (handbook, chapter 3, *Making results comparable*).
 * @param referenceC of the claim, °C. @returns furthest either way and furthest below, K, and the words.
 */
export function unrecordedTemperature(
  referenceC: number,
  roomC: RoomRange | null | undefined,
): { kelvin: number; belowK: number; words: string } {
  if (!roomC) return { kelvin: UNRECORDED_K, belowK: MOST_KELVIN, words: `± ${UNRECORDED_K} K` };
  const [low, high] = roomC;
  return {
    kelvin: Math.max(Math.abs(referenceC - low), Math.abs(referenceC - high)),
    belowK: Math.max(0, referenceC - low),
    words: `the room is kept at ${low} to ${high} °C`,
  };
}
