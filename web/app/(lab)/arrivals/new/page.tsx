import { labDay } from '@dusk-tally/lab/lots';
import { listModels, listProfiles } from '@dusk-tally/lab/arrivals';
import { mayAct } from '@dusk-tally/lab';
import { labSettings } from '@dusk-tally/lab/people';
import { listSuppliers } from '@dusk-tally/lab/suppliers';
import { LotForm } from '@/features/arrivals/lot-form';
import { PageHead, Problem } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Take in a lot' };

export default async function NewLotPage() {
  const who = await requireActor();
  const [suppliers, models, profiles, settings] = await Promise.all([
    listSuppliers(lab(), who, {}),
    listModels(lab(), who, {}),
    listProfiles(lab(), who, {}),
    labSettings(lab(), who, {}),
  ]);
  return (
    <>
      <Crumbs way={[{ href: '/arrivals', name: 'Arrivals' }]} />
      <PageHead
        title="Take in a lot"
        lead="Each cell counted gets a number of the lab’s own series. What the claim leaves open is taken from the model’s data sheet, then from the chemistry."
      />
      {mayAct(who.role, 'lead') ? (
        <LotForm
          suppliers={suppliers.map(({ id, name }) => ({ id, name }))}
          models={models}
          profiles={profiles.map((row) => row.profile)}
          currency={settings.currency}
          today={await labDay(lab())}
        />
      ) : (
        <Problem>Taking in a lot needs the role lead; you are signed in as {who.role}.</Problem>
      )}
    </>
  );
}
