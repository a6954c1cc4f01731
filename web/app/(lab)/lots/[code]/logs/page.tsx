import { mayAct } from '@dusk-tally/lab';
import { listChannels, listMappings } from '@dusk-tally/lab/evidence';
import { cellLines } from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { LogDrop } from '@/features/evidence/log-drop';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Logs' };

export default async function LogsPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const [lines, channels, mappings] = await Promise.all([
    cellLines(lab(), head.lot.id),
    listChannels(lab(), who, {}),
    listMappings(lab(), who, {}),
  ]);
  return (
    <LotFrame head={head} tab="logs">
      <LogDrop
        mayLead={mayAct(who.role, 'lead')}
        areFlat={head.model.format !== 'cylinder'}
        lotId={head.lot.id}
        cutoffV={head.claim.cutoffV.value}
        mappings={mappings}
        ratedAh={head.claim.capacityAh?.value ?? null}
        cells={lines.map(({ id, number, label, capacityAh }) => ({
          id,
          number,
          label,
          tested: capacityAh !== null,
        }))}
        channels={channels.map(({ id, title }) => ({ id, title }))}
      />
    </LotFrame>
  );
}
