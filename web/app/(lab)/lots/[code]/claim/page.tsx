import { mayAct } from '@dusk-tally/lab';
import { CHEMISTRY_PROFILES } from '@dusk-tally/core/chemistry';
import { ClaimEditor } from '@/features/arrivals/claim-editor';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { PlausibilityNote } from '@/features/arrivals/plausibility-note';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Claim' };

const hint = (value: number | null, source: string) =>
  value === null ? undefined : `${value} (${source})`;

export default async function ClaimPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const { model, lot, claim, claimItems } = head;
  const inherited = {
    capacity: hint(model.ratedAh, 'data sheet'),
    rateIt: hint(model.rateIt, 'data sheet'),
    cutoffV: hint(
      model.cutoffV ?? CHEMISTRY_PROFILES[model.chemistry].cutoffV,
      model.cutoffV === null ? 'chemistry' : 'data sheet',
    ),
    temperatureC: hint(model.temperatureC, 'data sheet'),
    acResistance: hint(model.acResistanceMohm, 'data sheet'),
  };
  return (
    <LotFrame head={head} tab="claim">
      <div className="max-w-4xl space-y-5">
        {claim.plausibility && <PlausibilityNote plausibility={claim.plausibility} />}
        <div className="panel p-5">
          <ClaimEditor
            key={lot.version}
            lotId={lot.id}
            version={lot.version}
            items={claimItems}
            inherited={inherited}
            mayChange={mayAct(who.role, 'lead')}
          />
        </div>
        <p className="text-quiet">
          Grey values are inherited. A change of the cut-off computes all capacities again from the
          stored traces.
        </p>
      </div>
    </LotFrame>
  );
}
