import { mayAct } from '@dusk-tally/lab';
import { listInstruments, metersView } from '@dusk-tally/lab/evidence';
import { Link } from '@/kit/link';
import { AddChannel } from '@/features/evidence/channels/add-channel';
import { worstFirst } from '@/features/evidence/channels/channel-order';
import { ChannelRow } from '@/features/evidence/channels/channel-row';
import { ComparisonPanel } from '@/features/evidence/channels/comparison-panel';
import { GaugePanel } from '@/features/evidence/channels/gauge-panel';
import { Crumbs } from '@/kit/crumbs';
import { Empty, PageHead } from '@/kit/page';
import { Table } from '@/kit/table';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Channels and meters' };

export default async function ChannelsPage() {
  const who = await requireActor();
  const [view, instruments] = await Promise.all([
    metersView(lab(), who, {}),
    listInstruments(lab(), who, {}),
  ]);
  const mayLead = mayAct(who.role, 'lead');
  const testers = instruments.filter((row) => row.kind === 'tester');
  const { channels, repeatability, fitted, reason, controls } = view;
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Channels and meters"
        lead="Is it the cell or the meter? Cells that ran on several channels tell the channels apart; control cells show when one changes."
      />
      <div className="space-y-5">
        <section className="panel p-4" aria-label="What repeats say">
          <h2 className="font-semibold">What repeats say</h2>
          {fitted ? (
            <p>
              {fitted.results} results of {fitted.cells} cells: one result repeats within{' '}
              {(100 * repeatability!).toFixed(2)} % (standard deviation).
            </p>
          ) : (
            <p className="text-quiet">{reason}</p>
          )}
          <p className="mt-1 text-quiet">
            Control cells:{' '}
            {controls.length === 0
              ? 'none yet. A cell’s page offers to keep it as one; run it on every channel now and then.'
              : controls.map(({ number, runs }, i) => (
                  <span key={number}>
                    {i > 0 && ', '}
                    <Link href={`/cells/${number}`} className="underline">
                      {number}
                    </Link>{' '}
                    ({runs} runs)
                  </span>
                ))}
          </p>
        </section>
        {channels.length === 0 ? (
          <Empty title="No channel yet">Describe a tester under Lab first.</Empty>
        ) : (
          <div className="panel p-2">
            <Table label="Channels">
              <thead>
                <tr>
                  <th>Channel</th>
                  <th>Against the others</th>
                  <th className="num">Runs</th>
                  <th>Control chart</th>
                  <th>Calibration</th>
                  <th>
                    <span className="sr-only">More</span>
                  </th>
                </tr>
              </thead>
              {worstFirst(channels).map((channel) => (
                <ChannelRow
                  key={`${channel.id}-${channel.version}`}
                  channel={channel}
                  mayLead={mayLead}
                />
              ))}
            </Table>
          </div>
        )}
        {mayLead && <AddChannel testers={testers.map(({ id, name }) => ({ id, name }))} />}
        <section className="panel p-4">
          <h2 className="mb-1 font-semibold">Gauge study</h2>
          <GaugePanel
            repeats={view.repeats}
            channels={channels.map(({ id, title }) => ({ id, title }))}
          />
        </section>
        <section className="panel p-4">
          <h2 className="mb-1 font-semibold">Side by side</h2>
          <ComparisonPanel kept={view.comparisons} />
        </section>
      </div>
    </>
  );
}
