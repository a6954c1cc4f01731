import type { SampleView } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';

const OUTCOMES = {
  open: 'not decided yet',
  accepted: 'accepted by the plan',
  failed: 'not accepted by the plan',
};
const DECISIONS = {
  testAll: 'every cell is tested',
  return: 'it goes back',
  accept: 'it is taken all the same',
};

/** How the lot stands by the sample that was drawn of it. */
export function SampleLine({ sample, code }: { sample: SampleView; code: string }) {
  const { picks, judged, short, outcome, decision } = sample;
  return (
    <p className="mt-3 max-w-[80ch]">
      <Link href={`/lots/${code}/arrival/sampling`} className="underline">
        By its sample
      </Link>{' '}
      of {picks.length}, {judged} judged and {short} short: {OUTCOMES[outcome]}
      {decision && `; decided: ${DECISIONS[decision.act]} (${decision.reason})`}.
    </p>
  );
}
