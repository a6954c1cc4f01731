import { historyOf, mayAct } from '@dusk-tally/lab';
import { supplierRecords } from '@dusk-tally/lab/records';
import { notFound } from 'next/navigation';
import { AddEarlierLot, SupplierNotes } from '@/features/suppliers/record-forms';
import { SupplierActs } from '@/features/suppliers/supplier-acts';
import { SupplierFacts } from '@/features/suppliers/supplier-facts';
import { SupplierLots } from '@/features/suppliers/supplier-lots';
import { Crumbs } from '@/kit/crumbs';
import { History } from '@/kit/history';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Supplier' };

export default async function SupplierPage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const { id } = await params;
  const { suppliers, prior, currency } = await supplierRecords(lab(), who, {});
  const record = suppliers.find((one) => String(one.id) === id);
  if (!record) notFound();
  const history = await historyOf(lab(), who, { subjectType: 'supplier', subjectId: id });
  const mayLead = mayAct(who.role, 'lead');
  return (
    <>
      <Crumbs way={[{ href: '/suppliers', name: 'Suppliers' }]} />
      <PageHead title={record.name} lead={record.place ?? 'Place not known'}>
        {mayLead && (
          <>
            <SupplierActs
              key={record.version}
              supplier={record}
              lots={record.lots.length}
              others={suppliers.filter((other) => other.id !== record.id)}
            />
            <AddEarlierLot supplierId={record.id} currency={currency} />
          </>
        )}
      </PageHead>
      {record.notes && <p className="mb-4 whitespace-pre-line text-quiet">{record.notes}</p>}
      <div className="space-y-4">
        <SupplierFacts record={record} mean={prior?.mean ?? null} currency={currency} />
        <SupplierLots lots={record.lots} currency={currency} mayLead={mayLead} />
        <SupplierNotes supplierId={record.id} said={record.said} />
        <History entries={history} />
      </div>
    </>
  );
}
