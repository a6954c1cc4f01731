import { CLAIM_ITEMS } from '@dusk-tally/core/arrivals';
import { historyOf, mayAct } from '@dusk-tally/lab';
import { labSettings } from '@dusk-tally/lab/people';
import { listSuppliers } from '@dusk-tally/lab/suppliers';
import {
  envelopeOf,
  listModels,
  offersOfLot,
  orderOf,
  photosOfLot,
} from '@dusk-tally/lab/arrivals';
import { ClaimEditor } from '@/features/arrivals/claim-editor';
import { inheritedHints } from '@/features/arrivals/inherited';
import { LotEnder, ModelChanger } from '@/features/arrivals/lot-acts';
import { OrderEditor } from '@/features/arrivals/order-editor';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { OfferPanel } from '@/features/arrivals/offer-panel';
import { PhotoDrop } from '@/features/arrivals/photo-drop';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Claim' };

const FROM = {
  claim: 'claimed',
  model: 'from the data sheet',
  chemistry: 'usual for the chemistry',
};

export default async function ClaimPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const { model, profile, lot, claim, claimItems } = head;
  const mayLead = mayAct(who.role, 'lead');
  const [offers, photos, models, suppliers, history, settings] = await Promise.all([
    offersOfLot(lab(), who, { lotId: lot.id }),
    photosOfLot(lab(), who, { lotId: lot.id }),
    listModels(lab(), who, {}),
    listSuppliers(lab(), who, {}),
    historyOf(lab(), who, { subjectType: 'lot', subjectId: lot.code }),
    labSettings(lab(), who, {}),
  ]);
  return (
    <LotFrame head={head} tab="claim">
      <div className="grid gap-5 xl:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="space-y-5">
          <div className="panel p-5">
            <ClaimEditor
              key={lot.version}
              lotId={lot.id}
              version={lot.version}
              items={claimItems}
              inherited={inheritedHints(model, profile)}
              sheet={{
                chemistry: model.chemistry,
                profile,
                envelope: envelopeOf(model),
                massG: model.massG,
                ratedAh: model.ratedAh,
                format: model.format,
              }}
              offer={offers[0]?.text ?? ''}
              mayChange={mayLead && !lot.cancelledAt}
            />
          </div>
          <OfferPanel lotId={lot.id} offers={offers} />
          <PhotoDrop
            lotId={lot.id}
            subject={{ type: 'offer', id: offers[0]?.id ?? 0 }}
            photos={photos}
            title="Pictures of the listing"
            locked={
              offers.length === 0 ? 'Keep the offer’s text first; its pictures belong to it.' : null
            }
          />
          {mayLead && !lot.cancelledAt && (
            <>
              <OrderEditor
                lotId={lot.id}
                order={orderOf(lot)}
                house={settings.currency}
                suppliers={suppliers.map(({ id, name }) => ({ id, name }))}
                history={history}
              />
              <ModelChanger lot={lot} modelId={model.id} models={models} />
              <LotEnder lot={lot} />
            </>
          )}
        </div>
        <aside className="panel self-start p-4" aria-label="The claim as it counts">
          <h2 className="font-semibold">The claim as it counts</h2>
          {claim.items.length === 0 && <p className="text-quiet">Nothing is claimed yet.</p>}
          <dl className="mt-1 space-y-2">
            {claim.items.map((item) => {
              const { words, unit, conditions } = CLAIM_ITEMS[item.kind];
              return (
                <div key={item.kind}>
                  <dt className="font-medium">
                    {words}: {item.value ?? item.text}
                    {item.value !== null && unit && ` ${unit}`}
                    {item.from !== 'claim' && (
                      <span className="font-normal text-quiet"> {FROM[item.from]}</span>
                    )}
                  </dt>
                  {item.conditions.map((condition) => {
                    const spec = conditions.find(({ name }) => name === condition.name)!;
                    return (
                      <dd key={condition.name} className="pl-3 text-[0.9rem]">
                        {spec.words} {spec.choices?.[condition.value] ?? condition.value}
                        {spec.unit && ` ${spec.unit}`}{' '}
                        <span className="text-quiet">
                          {condition.from !== 'claim' && FROM[condition.from]}
                        </span>
                      </dd>
                    );
                  })}
                </div>
              );
            })}
          </dl>
          <p className="mt-3 text-[0.85rem] text-quiet">
            What the claim leaves open comes from the model’s data sheet, then from the chemistry’s
            profile. A change of the cut-off computes all capacities again from the stored traces.
          </p>
        </aside>
      </div>
    </LotFrame>
  );
}
