'use client';

import type { ChannelState } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { lookAtChannelAct } from './channel-acts';
import { ChannelForm } from './channel-form';
import { ControlChartPicture } from './control-chart';
import { LabDay } from '@/kit/lab-time';
import { Input, Label } from '@/kit/form-parts';

const share = (value: number) => `${(100 * Math.abs(value)).toFixed(2)} %`;

const CALIBRATION = {
  none: 'no calibration on record',
  valid: 'in date',
  dueSoon: 'due within a month',
  overdue: 'overdue: results say so on the report',
};

/** How far a channel reads from the others, in one line. */
function EffectLine({ effect }: { effect: ChannelState['effect'] }) {
  if (!effect) return <p className="text-quiet">Not compared with other channels yet.</p>;
  const within = `± ${share(2 * effect.shrunkError)}, ${effect.results} results`;
  return effect.corrects ? (
    <p>
      <strong className="font-semibold">
        Reads {share(effect.shrunk)} {effect.shrunk > 0 ? 'high' : 'low'}
      </strong>{' '}
      <span className="text-quiet">({within}); results are corrected by it.</span>
    </p>
  ) : (
    <p>
      Agrees with the others{' '}
      <span className="text-quiet">
        ({effect.shrunk >= 0 ? '+' : '−'}
        {share(effect.shrunk)} {within}); the rest is kept as uncertainty.
      </span>
    </p>
  );
}

/** One channel: its calibration, its effect, its control chart, and whether it is held back. */
export function ChannelCard({ channel, mayLead }: { channel: ChannelState; mayLead: boolean }) {
  const { run, busy, problem } = useAct();
  const [note, setNote] = useState('');
  const [editing, setEditing] = useState(false);
  return (
    <section
      className={`panel p-4 ${channel.held ? 'border-doubt' : ''}`}
      aria-label={channel.title}
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="font-semibold">{channel.title}</h3>
        <span className="text-[0.85rem] text-quiet">
          {channel.runs} {channel.runs === 1 ? 'run' : 'runs'}
        </span>
        {mayLead && (
          <Button look="bare" className="ml-auto" onClick={() => setEditing(!editing)}>
            {editing ? 'Close' : 'Calibration …'}
          </Button>
        )}
      </div>
      <EffectLine effect={channel.effect} />
      <p className="text-[0.85rem] text-quiet">
        Calibration {channel.dueOn ? `due ${channel.dueOn}, ` : ''}
        <span className={channel.calibration === 'overdue' ? 'text-missed' : ''}>
          {CALIBRATION[channel.calibration]}
        </span>
        {channel.voltageTable.length > 0 &&
          `; voltages corrected by a table of ${channel.voltageTable.length} points`}
        .
      </p>
      {channel.held && (
        <div role="status" className="mt-2 rounded-sm border border-doubt bg-wash p-3">
          <p className="font-medium text-doubt">Results since its last good point are held back.</p>
          <p>{channel.held.reason}</p>
          {mayLead ? (
            <form
              className="mt-2 flex flex-wrap items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                run(
                  () => lookAtChannelAct({ channelId: channel.id, note }),
                  () => setNote(''),
                );
              }}
            >
              <Label text="What you found, looking at it" className="min-w-52 flex-1">
                <Input value={note} onChange={(event) => setNote(event.target.value)} />
              </Label>
              <Button type="submit" disabled={busy || note.trim().length < 3}>
                Release its results
              </Button>
            </form>
          ) : (
            <p className="text-quiet">A lead can release them after looking.</p>
          )}
        </div>
      )}
      {channel.chart && (
        <div className="mt-2">
          <ControlChartPicture chart={channel.chart} />
          {channel.chart.looks.map((look) => (
            <p key={String(look.at)} className="text-[0.82rem] text-quiet">
              <LabDay at={look.at} />, {look.person}: {look.note}
            </p>
          ))}
        </div>
      )}
      {editing && <ChannelForm channel={channel} done={() => setEditing(false)} />}
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
