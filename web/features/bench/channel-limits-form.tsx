'use client';

import type { ChannelLimits, ChannelWiring } from '@dusk-tally/core/bench';
import type { BoardChannel } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { setChannelLimitsAct } from './bench-acts';
import { Input, Label } from '@/kit/form-parts';
import { Tick } from '@/kit/tick';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

type Name = Exclude<keyof ChannelLimits, 'canCharge' | 'canDischarge' | 'wires' | 'enforcesCutoff'>;
const NUMBERS: [Name, string, boolean?][] = [
  ['minA', 'Least current / A'],
  ['maxA', 'Most current / A'],
  ['maxW', 'Most power / W'],
  ['minV', 'Least voltage / V'],
  ['maxV', 'Most voltage / V'],
  ['fuseA', 'Fuse or breaker / A', true],
  ['holderA', 'Holder or clamps take / A', true],
  ['leadPlusMohm', 'Lead, plus / mΩ'],
  ['leadMinusMohm', 'Lead, minus / mΩ'],
  ['currentGainPct', 'Current: gain / %'],
  ['currentOffsetA', 'Current: offset / A'],
  ['voltageGainPct', 'Voltage: gain / %'],
  ['voltageOffsetV', 'Voltage: offset / V'],
  ['resolutionV', 'Resolution / V'],
  ['resolutionA', 'Resolution / A'],
  ['reportS', 'Reports every / s'],
];

const placeOf = (text: string): ChannelWiring['thermometer'] => {
  const [address, input] = text.trim().split('#');
  return address ? { address, input: Number(input ?? 1) } : null;
};
const textOf = (place: ChannelWiring['thermometer']) =>
  place ? `${place.address}#${place.input}` : '';

/** What a channel can do and where its instruments answer. */
export function ChannelLimitsForm({ channel, done }: { channel: BoardChannel; done: () => void }) {
  const { run, busy, problem } = useAct();
  const [numbers, setNumbers] = useState(
    () =>
      Object.fromEntries(
        NUMBERS.map(([name]) => [
          name,
          channel.limits[name] === null ? '' : String(channel.limits[name]),
        ]),
      ) as Record<Name, string>,
  );
  const [flags, setFlags] = useState({
    canCharge: channel.limits.canCharge,
    canDischarge: channel.limits.canDischarge,
    fourWires: channel.limits.wires === 4,
    enforcesCutoff: channel.limits.enforcesCutoff,
  });
  const [wiring, setWiring] = useState({
    load: channel.wiring?.load ?? '',
    supply: channel.wiring?.supply ?? '',
    thermometer: textOf(channel.wiring?.thermometer ?? null),
    resistanceMeter: textOf(channel.wiring?.resistanceMeter ?? null),
    agent: channel.agent ?? '',
  });
  const keep = () => {
    const read = (name: Name, optional?: boolean) => {
      const value = typedNumber(numbers[name]);
      return value === null && !optional ? NaN : value;
    };
    const limits = {
      ...Object.fromEntries(NUMBERS.map(([name, , optional]) => [name, read(name, optional)])),
      canCharge: flags.canCharge,
      canDischarge: flags.canDischarge,
      wires: flags.fourWires ? 4 : 2,
      enforcesCutoff: flags.enforcesCutoff,
    } as ChannelLimits;
    const wired = wiring.load.trim() || wiring.supply.trim();
    run(
      () =>
        setChannelLimitsAct({
          channelId: channel.id,
          version: channel.version,
          limits,
          agent: wiring.agent,
          wiring: wired
            ? {
                load: wiring.load.trim() || null,
                supply: wiring.supply.trim() || null,
                thermometer: placeOf(wiring.thermometer),
                resistanceMeter: placeOf(wiring.resistanceMeter),
              }
            : null,
        }),
      done,
    );
  };
  return (
    <form
      className="mt-3 space-y-4 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {NUMBERS.map(([name, words, optional]) => (
          <Label
            key={name}
            text={
              <>
                {words} {optional ? ' (none: leave open)' : ''}
              </>
            }
          >
            <NumberInput
              quantity={quantityOfHead(words)}
              text={numbers[name]}
              onText={(next) => setNumbers({ ...numbers, [name]: next })}
            />
          </Label>
        ))}
      </div>
      <fieldset className="flex flex-wrap gap-x-6 gap-y-2">
        <legend className="sr-only">Abilities</legend>
        {(
          [
            ['canCharge', 'charges'],
            ['canDischarge', 'discharges'],
            ['fourWires', 'sense leads of its own (four wires)'],
            ['enforcesCutoff', 'ends a discharge at its own cut-off'],
          ] as const
        ).map(([name, words]) => (
          <Tick
            key={name}
            checked={flags[name]}
            onChecked={(on) => setFlags({ ...flags, [name]: on })}
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      <fieldset>
        <legend className="mb-2 font-semibold">Where its instruments answer, for an agent</legend>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-5">
          {(
            [
              ['load', 'Load', '127.0.0.1:5025'],
              ['supply', 'Supply', '127.0.0.1:5026'],
              ['thermometer', 'Thermometer # input', '127.0.0.1:5030#3'],
              ['resistanceMeter', 'AC meter # input', '127.0.0.1:5031#3'],
              ['agent', 'Agent (any: leave open)', 'bench'],
            ] as const
          ).map(([name, words, example]) => (
            <Label key={name} text={words}>
              <Input
                placeholder={example}
                value={wiring[name]}
                onChange={(event) => setWiring({ ...wiring, [name]: event.target.value })}
              />
            </Label>
          ))}
        </div>
      </fieldset>
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={busy}>
          Keep
        </Button>
        <Button onClick={done}>Leave as it was</Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </form>
  );
}
