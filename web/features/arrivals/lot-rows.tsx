import type { LotHead } from '@dusk-tally/lab/verdicts';
import Link from 'next/link';
import { TallyThumb } from '@/kit/tally-strip';

/** Lots as rows, each with its tally. */
export function LotRows({ heads }: { heads: LotHead[] }) {
  return (
    <table className="table-plain w-full">
      <thead>
        <tr>
          <th>Lot</th>
          <th>Supplier</th>
          <th>Arrived</th>
          <th className="num">Cells</th>
          <th className="num">Tested</th>
          <th>Tally</th>
        </tr>
      </thead>
      <tbody>
        {heads.map(({ lot, supplier, model, strokes, tested }) => (
          <tr key={lot.id} className="hover:bg-wash">
            <td>
              <Link href={`/lots/${lot.code}`} className="font-medium hover:underline">
                {lot.title}
              </Link>
              <span className="block text-[0.82rem] text-quiet">
                {lot.code}, {model.name}
              </span>
            </td>
            <td>{supplier.name}</td>
            <td className="whitespace-nowrap">{lot.arrivedOn ?? '–'}</td>
            <td className="num">{lot.quantity}</td>
            <td className="num">{tested}</td>
            <td className="w-[310px]">
              <TallyThumb strokes={strokes} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
