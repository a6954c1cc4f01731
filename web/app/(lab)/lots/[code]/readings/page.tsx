import { usualPurpose } from '@dusk-tally/core/arrivals';
import { entryGrid, listInstruments, readingsSince } from '@dusk-tally/lab/evidence';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { EntryGrid } from '@/features/evidence/entry-grid';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Readings' };

export default async function ReadingsPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  // Which reading is the newest is asked first: what comes after it is told.
  const { last } = await readingsSince(lab(), who, { lotId: head.lot.id, after: null });
  const [cells, instruments] = await Promise.all([
    entryGrid(lab(), who, { lotId: head.lot.id }),
    listInstruments(lab(), who, {}),
  ]);
  return (
    <LotFrame head={head} tab="readings">
      <EntryGrid
        lotId={head.lot.id}
        takenFor={usualPurpose(head.tested > 0)}
        mayChoose
        claimedRateIt={head.claim.rateIt?.value ?? null}
        cells={cells}
        lastReading={last}
        instruments={instruments.map(({ id, name, kind }) => ({ id, name, kind }))}
        expected={{
          acResistance: head.claim.acResistanceMohm?.value ?? null,
          openCircuitVoltage: null,
          capacity: head.claim.capacityAh?.value ?? null,
        }}
        voltages={{
          cutoffV: head.claim.cutoffV.value,
          chargeV: head.profile.chargeV,
          nominalV: head.profile.nominalV,
        }}
      />
    </LotFrame>
  );
}
