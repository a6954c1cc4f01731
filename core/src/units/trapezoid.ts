/**
 * Area under a line between two values, by the trapezoid rule: mean of the two × width. A × h = Ah,
 * W × h = Wh, A² × h × Ω = Wh. The one place the rule stands (handbook, chapter 3, "Capacity").
 * @param before value at the start. @param after at the end. @param width between them, not negative.
 * @example trapezoid(20, 22, 0.5) // 10.5: Ah of half an hour that rises from 20 A to 22 A
 */
export const trapezoid = (before: number, after: number, width: number): number =>
  ((before + after) / 2) * width;
