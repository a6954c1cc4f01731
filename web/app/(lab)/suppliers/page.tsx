import { historyOf, mayAct } from '@dusk-tally/lab';
import { listSuppliers } from '@dusk-tally/lab/suppliers';
import { lotList } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { SupplierActs } from '@/features/suppliers/supplier-acts';
import { History } from '@/kit/history';
import { Empty, PageHead } from '@/kit/page';
import { TallyThumb } from '@/kit/tally-strokes';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Suppliers' };

export default async function SuppliersPage() {
  const who = await requireActor();
  const [suppliers, heads] = await Promise.all([
    listSuppliers(lab(), who, {}),
    lotList(lab(), who, {}),
  ]);
  const histories = await Promise.all(
    suppliers.map(({ id }) =>
      historyOf(lab(), who, { subjectType: 'supplier', subjectId: String(id) }),
    ),
  );
  return (
    <>
      <PageHead title="Suppliers" lead="Who sold which lots, and how those stand." />
      {suppliers.length === 0 && (
        <Empty title="No supplier yet">
          A supplier is added with the first lot taken in from them.
        </Empty>
      )}
      <ul className="space-y-3">
        {suppliers.map((supplier, i) => (
          <li key={supplier.id} className="panel p-4">
            <div className="flex flex-wrap items-center justify-between gap-2">
              <h2 className="font-semibold">
                {supplier.name}
                {supplier.place && (
                  <span className="ml-2 font-normal text-quiet">{supplier.place}</span>
                )}
              </h2>
              {mayAct(who.role, 'lead') && (
                <SupplierActs
                  key={supplier.version}
                  supplier={supplier}
                  lots={heads.filter((head) => head.supplier.id === supplier.id).length}
                  others={suppliers.filter((other) => other.id !== supplier.id)}
                />
              )}
            </div>
            {supplier.notes && <p className="whitespace-pre-line text-quiet">{supplier.notes}</p>}
            {heads
              .filter((head) => head.supplier.id === supplier.id)
              .map((head) => (
                <div
                  key={head.lot.id}
                  className="mt-1 flex flex-wrap items-center justify-between gap-3"
                >
                  <Link href={`/lots/${head.lot.code}/verdict`} className="hover:underline">
                    {head.lot.title} <span className="text-quiet">{head.lot.code}</span>
                  </Link>
                  <TallyThumb strokes={head.strokes} width={380} />
                </div>
              ))}
            <History entries={histories[i]!} />
          </li>
        ))}
      </ul>
    </>
  );
}
