/**
 * How far two measurements of one thing are apart: their difference over their mean, so that it is one
 * number whichever is named first. @param a above 0. @param b above 0.
 * @example apartShare(3, 1) // 1
 */
export const apartShare = (a: number, b: number): number => Math.abs(a - b) / ((a + b) / 2);
