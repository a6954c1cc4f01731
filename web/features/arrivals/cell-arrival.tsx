import { GATE_WORDS, readCode } from '@dusk-tally/core/arrivals';
import type { PhotoView } from '@dusk-tally/lab/arrivals';
import type { cellPage } from '@dusk-tally/lab/verdicts';
import { FindingList } from './finding-list';
import { PhotoDrop } from './photo-drop';
import { LabMoment } from '@/kit/lab-time';

const volts = (value: number | null) => (value === null ? null : `${value.toFixed(3)} V`);

/** How a cell came: its gate, code, first voltage, findings, pack and photographs. */
export function CellArrival({
  cell,
  arrival,
  findings,
  recoveries,
  pack,
  photos,
  arrivedOn,
  mayLead,
}: Pick<
  Awaited<ReturnType<typeof cellPage>>,
  'cell' | 'arrival' | 'findings' | 'recoveries' | 'pack'
> & {
  photos: PhotoView[];
  arrivedOn: string | null;
  mayLead: boolean;
}) {
  const reading = cell.label ? readCode(cell.label, [], { arrivedOn }) : null;
  const facts: [string, string | null][] = [
    ['Stands', arrival ? GATE_WORDS[arrival.gate] : null],
    ['First voltage', volts(arrival?.firstV ?? null)],
    ['Triage', arrival?.triageReason ?? null],
    ['Produced', arrival?.producedOn ? `${arrival.producedOn}, by its code` : null],
    [
      'Code',
      reading?.ok ? `${reading.scheme}${reading.serial ? `, serial ${reading.serial}` : ''}` : null,
    ],
    ['Box', cell.box],
    [
      'Pack',
      pack
        ? `${pack.number}, parallel group ${cell.groupIndex}; came out ${cell.harvest ?? 'good'}`
        : null,
    ],
  ];
  return (
    <section className="space-y-4" aria-label="Arrival">
      <div className="panel p-4">
        <h2 className="font-semibold">Arrival</h2>
        {arrival && arrival.lowestV !== null && arrival.lowestV < 1 && (
          <p className="mt-1 font-medium text-missed">
            Was below 1.0 V ({arrival.lowestV.toFixed(2)} V). This mark stays for life, on its
            report too.
          </p>
        )}
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          {facts.map(([name, value]) =>
            value === null ? null : (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd>{value}</dd>
              </div>
            ),
          )}
        </dl>
        {recoveries.length > 0 && (
          <ul className="mt-2 text-[0.9rem] text-quiet">
            {recoveries.map((entry) => (
              <li key={entry.id}>
                <LabMoment at={entry.at} />:{' '}
                {
                  {
                    released: 'released for slow recovery',
                    heatCheck: 'heat check',
                    recovered: 'recovered',
                    noRise: 'no rise',
                    heat: 'grew warm',
                  }[entry.act]
                }
                , {entry.protocol} v{entry.protocolVersion}, {entry.person}
              </li>
            ))}
          </ul>
        )}
      </div>
      <FindingList
        lotId={cell.lotId}
        findings={findings}
        numbers={new Map([[cell.id, cell.number]])}
        photos={photos}
        mayLead={mayLead}
      />
      <PhotoDrop
        lotId={cell.lotId}
        subject={{ type: 'cell', id: cell.id }}
        photos={photos}
        title={`Photographs of ${cell.number}`}
      />
    </section>
  );
}
