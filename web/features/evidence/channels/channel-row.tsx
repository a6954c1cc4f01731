'use client';

import type { ChannelState } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { LabDay } from '@/kit/lab-time';
import { ChannelForm } from './channel-form';
import { ChannelHeld } from './channel-held';
import { ControlChartPicture } from './control-chart';

const share = (value: number) => `${(100 * Math.abs(value)).toFixed(2)} %`;

const CALIBRATION = {
  none: 'none on record',
  valid: 'in date',
  dueSoon: 'due within a month',
  overdue: 'overdue: results say so on the report',
};

/** How far a channel reads from the others, in one line. */
function Effect({ effect }: { effect: ChannelState['effect'] }) {
  if (!effect) return <span className="text-quiet">Not compared with other channels yet.</span>;
  const within = `± ${share(2 * effect.shrunkError)}, ${effect.results} results`;
  return effect.corrects ? (
    <>
      <strong className="font-semibold">
        Reads {share(effect.shrunk)} {effect.shrunk > 0 ? 'high' : 'low'}
      </strong>{' '}
      <span className="text-quiet">({within}); results are corrected by it.</span>
    </>
  ) : (
    <>
      Agrees with the others{' '}
      <span className="text-quiet">
        ({effect.shrunk >= 0 ? '+' : '−'}
        {share(effect.shrunk)} {within}); the rest is kept as uncertainty.
      </span>
    </>
  );
}

function Calibration({ channel }: { channel: ChannelState }) {
  return (
    <>
      <span className={channel.calibration === 'overdue' ? 'font-medium text-missed' : ''}>
        {CALIBRATION[channel.calibration]}
      </span>
      {channel.dueOn && (
        <span className="block text-[0.82rem] text-quiet">due {channel.dueOn}</span>
      )}
      {channel.voltageTable.length > 0 && (
        <span className="block text-[0.82rem] text-quiet">
          voltages corrected by a table of {channel.voltageTable.length} points
        </span>
      )}
    </>
  );
}

/** What stands under a channel once it is opened: its control chart, looks, and its calibration. */
function Inside({
  channel,
  mayLead,
  done,
}: {
  channel: ChannelState;
  mayLead: boolean;
  done: () => void;
}) {
  return (
    <div className="space-y-3 py-2">
      {channel.held && <ChannelHeld channel={channel} mayLead={mayLead} />}
      {channel.chart ? (
        <div>
          <ControlChartPicture chart={channel.chart} />
          {channel.chart.looks.map((look) => (
            <p key={String(look.at)} className="text-[0.82rem] text-quiet">
              <LabDay at={look.at} />, {look.person}: {look.note}
            </p>
          ))}
        </div>
      ) : (
        <p className="text-quiet">No control cell ran on it yet, so there is no control chart.</p>
      )}
      {mayLead && (
        <Fold title="Name, calibration and voltage check" openAtFirst={channel.held === null}>
          <ChannelForm channel={channel} done={done} />
        </Fold>
      )}
    </div>
  );
}

/** One channel: its effect, its calibration, and on demand what they rest on. */
export function ChannelRow({ channel, mayLead }: { channel: ChannelState; mayLead: boolean }) {
  const [open, setOpen] = useState(channel.held !== null);
  const signals = channel.chart?.points.filter(({ signal }) => signal !== null).length ?? 0;
  return (
    <tbody aria-label={channel.title} className={channel.held ? 'bg-wash/50' : ''}>
      <tr>
        <td className="whitespace-nowrap font-medium">{channel.title}</td>
        <td className="max-w-md">
          <Effect effect={channel.effect} />
        </td>
        <td className="num">{channel.runs}</td>
        <td>
          {channel.chart ? (
            <>
              {channel.chart.points.length} points
              {signals > 0 && (
                <>
                  , <strong className="font-semibold">{signals} out</strong>
                </>
              )}
            </>
          ) : (
            <span className="text-quiet">–</span>
          )}
          {channel.held && <span className="block font-medium text-doubt">held back</span>}
        </td>
        <td>
          <Calibration channel={channel} />
        </td>
        <td className="text-right">
          <Button
            look="bare"
            aria-expanded={open}
            aria-label={`${open ? 'Close' : 'Open'} ${channel.title}`}
            onClick={() => setOpen(!open)}
          >
            {open ? 'Close' : 'Open'}
          </Button>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={6}>
            <Inside channel={channel} mayLead={mayLead} done={() => setOpen(false)} />
          </td>
        </tr>
      )}
    </tbody>
  );
}
