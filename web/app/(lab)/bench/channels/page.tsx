import { mayAct } from '@dusk-tally/lab';
import { planBoard } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { BenchChannelCard } from '@/features/bench/bench-channel-card';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Channels of the bench' };

export default async function BenchChannelsPage() {
  const who = await requireActor();
  const { channels } = await planBoard(lab(), who, {});
  return (
    <>
      <p className="mb-4 max-w-[90ch] text-quiet">
        What each place can do, and what holds its current. How true its meters are stands under{' '}
        <Link href="/lab/channels" className="underline">
          Channels and meters
        </Link>
        .
      </p>
      {channels.length === 0 ? (
        <Empty title="No channel yet">
          Describe a tester under <Link href="/lab">Lab</Link>; each tester brings one channel.
        </Empty>
      ) : (
        <div className="grid items-start gap-3 lg:grid-cols-2">
          {channels.map((channel) => (
            <BenchChannelCard
              key={`${channel.id}-${channel.version}`}
              channel={channel}
              mayLead={mayAct(who.role, 'lead')}
            />
          ))}
        </div>
      )}
    </>
  );
}
