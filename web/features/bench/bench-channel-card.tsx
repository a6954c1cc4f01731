'use client';

import { cableMohm, leadLoss, reachableCurrent } from '@dusk-tally/core/bench';
import type { BoardChannel } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { ChannelLimitsForm } from './channel-limits-form';

/** A channel with what it reaches, and its form. */
export function BenchChannelCard({
  channel,
  mayLead,
}: {
  channel: BoardChannel;
  mayLead: boolean;
}) {
  const [editing, setEditing] = useState(false);
  const { limits, wiring } = channel;
  const one = reachableCurrent(limits, 3.3, null);
  const eight = reachableCurrent(limits, 25.6, null);
  const mohm = limits.leadPlusMohm + limits.leadMinusMohm;
  const loss = leadLoss(mohm, one.amps, { hours: 1, wires: limits.wires, cutoffV: 2.5 });
  return (
    <article className="panel p-4">
      <div className="flex flex-wrap items-start justify-between gap-2">
        <h2 className="font-semibold">{channel.title}</h2>
        <span className="text-quiet">
          {wiring
            ? `driven${channel.agent ? ` by agent ${channel.agent}` : ''}`
            : 'by hand, or by its own program'}
        </span>
      </div>
      {channel.isAssumed && (
        <p className="text-doubt">
          Its limits were not written down: those of a usual small load are assumed, and no charge.
        </p>
      )}
      <ul className="mt-1 space-y-0.5">
        <li>
          One cell at 3.3 V: up to <strong>{one.amps.toFixed(1)} A</strong>, limited by {one.limit}.
        </li>
        {limits.maxV >= 25.6 && (
          <li>
            A string of eight at 25.6 V: up to <strong>{eight.amps.toFixed(1)} A</strong>, limited
            by {eight.limit}.
          </li>
        )}
        <li>
          {limits.canCharge ? 'Charges' : 'Does not charge'},{' '}
          {limits.canDischarge ? 'discharges' : 'does not discharge'},{' '}
          {limits.wires === 4 ? 'four wires' : 'two wires'},{' '}
          {limits.enforcesCutoff
            ? 'ends at its own cut-off'
            : 'no cut-off of its own: attended only'}
          , {limits.fuseA === null ? 'no fuse: attended only' : `fuse ${limits.fuseA} A`}.
        </li>
        <li>
          Leads {mohm.toFixed(1)} mΩ: {(loss.dropV * 1000).toFixed(0)} mV and{' '}
          {loss.powerW.toFixed(1)} W at {one.amps.toFixed(1)} A
          {loss.advice ? `. ${loss.advice}` : ''}
          {mohm > 0 && limits.wires === 4 ? '; not in the reading' : ''}. As much as{' '}
          {((mohm / cableMohm(1, 4)) * 1).toFixed(1)} m of 4 mm² copper, there and back.
        </li>
        {wiring && (
          <li className="text-quiet">
            {[
              wiring.load && `load ${wiring.load}`,
              wiring.supply && `supply ${wiring.supply}`,
              wiring.thermometer &&
                `thermometer ${wiring.thermometer.address}, input ${wiring.thermometer.input}`,
            ]
              .filter(Boolean)
              .join(', ')}
          </li>
        )}
      </ul>
      {mayLead && !editing && (
        <Button className="mt-2" onClick={() => setEditing(true)}>
          Change
        </Button>
      )}
      {editing && <ChannelLimitsForm channel={channel} done={() => setEditing(false)} />}
    </article>
  );
}
