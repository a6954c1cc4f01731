import { mayAct } from '@dusk-tally/lab';
import { supplierRecords } from '@dusk-tally/lab/records';
import { TargetForm } from '@/features/suppliers/record-forms';
import { SupplierRanking } from '@/features/suppliers/supplier-ranking';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Suppliers' };

export default async function SuppliersPage() {
  const who = await requireActor();
  const records = await supplierRecords(lab(), who, {});
  return (
    <>
      <PageHead
        title="Suppliers"
        lead="Whom to buy from: what their claims came to, and how sure that is."
      >
        <ButtonLink look="primary" href="/suppliers/offer">
          Look at an offer
        </ButtonLink>
      </PageHead>
      {records.suppliers.length === 0 ? (
        <Empty title="No supplier yet">
          A supplier is added with the first lot taken in from them.
        </Empty>
      ) : (
        <SupplierRanking records={records} />
      )}
      {mayAct(who.role, 'lead') && (
        <div className="panel mt-4 p-4">
          <TargetForm
            key={records.targetCentsPerKwh}
            cents={records.targetCentsPerKwh}
            currency={records.currency}
          />
        </div>
      )}
    </>
  );
}
