import { CLAIM_ITEMS } from '@dusk-tally/core/arrivals';
import {
  type ClaimedItem,
  dimensionOf,
  HOUSE_TOLERANCE_PCT,
  isTypical,
} from '@dusk-tally/core/verdicts';

/** A size with the dimension of it that is judged. */
function sizeWords(text: string, tolerance: string): string {
  const judged = dimensionOf(text);
  return judged
    ? `${judged.name} ${Number(judged.mm.toFixed(2))} mm ${tolerance}, of ${text}`
    : `${text} ${tolerance}`;
}

/** What an item claims, in words. */
export function claimedWords({ kind, value, text, conditions }: ClaimedItem): string {
  const { unit } = CLAIM_ITEMS[kind];
  const number = value === null ? '' : `${value}${unit ? ` ${unit}` : ''}`;
  const tolerance = `± ${conditions.tolerancePct ?? HOUSE_TOLERANCE_PCT} %${conditions.tolerancePct === undefined ? ' (house)' : ''}`;
  switch (kind) {
    case 'capacity':
      return isTypical({ conditions }) ? `typically ${number}` : `at least ${number}`;
    case 'acResistance':
    case 'dcResistance':
      if (isTypical({ conditions })) return `typically ${number}`;
      return conditions.statedAs === 'range'
        ? `${conditions.low} to ${number}`
        : `at most ${number}`;
    case 'mass':
      return `${number} ${tolerance}`;
    case 'size':
      return sizeWords(text ?? '', tolerance);
    case 'maxCharge':
    case 'maxDischarge':
      return conditions.pulseS ? `${number} for ${conditions.pulseS} s` : number;
    default:
      return text ?? number;
  }
}
