import type { LotBooks } from '@dusk-tally/lab/money';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** How likely the supplier pays, by the disputes that ended. */
export function paybackWords({ own, all, chance, low, high }: LotBooks['payback']): string {
  if (all.ended === 0) return 'No dispute has ended here yet: how likely it comes nobody can say.';
  const counted =
    own.ended > 0
      ? `Of ${own.ended} that ended with this supplier ${own.paid} ${own.paid === 1 ? 'was' : 'were'} paid, of ${all.ended} with all ${all.paid}`
      : `None has ended with this supplier yet; of ${all.ended} with others ${all.paid} ${all.paid === 1 ? 'was' : 'were'} paid`;
  return `${counted}: about ${percent(chance)} (${percent(low)} to ${percent(high)}).`;
}

/** What returning risks, and the chance from which it pays all the same. */
export function returnRiskWords(needs: number): string {
  const gone = 'the goods are gone before the money is there.';
  return needs > 1
    ? `${gone} Even a sure refund leaves less than keeping them.`
    : `${gone} It leaves more than keeping them only if the refund comes with a chance of more than ${percent(needs)}.`;
}
