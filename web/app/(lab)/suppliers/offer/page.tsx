import { listModels } from '@dusk-tally/lab/arrivals';
import { supplierRecords } from '@dusk-tally/lab/records';
import { OfferForm } from '@/features/suppliers/offer-form';
import { Crumbs } from '@/kit/crumbs';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'An offer' };

export default async function OfferPage() {
  const who = await requireActor();
  const [{ suppliers, currency }, models] = await Promise.all([
    supplierRecords(lab(), who, {}),
    listModels(lab(), who, {}),
  ]);
  return (
    <>
      <Crumbs way={[{ href: '/suppliers', name: 'Suppliers' }]} />
      <PageHead
        title="An offer"
        lead="Looked at before anything is bought, against everything tested here."
      />
      <OfferForm
        suppliers={suppliers.map(({ id, name }) => ({ id, name }))}
        models={models.map(({ id, name }) => ({ id, name }))}
        currency={currency}
      />
    </>
  );
}
