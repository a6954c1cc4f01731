'use client';

import type { ChannelLimits, ChannelWiring } from '@dusk-tally/core/bench';
import type { BoardChannel } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { NumberField, TextField, TickField, useField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Input, Label } from '@/kit/form-parts';
import { quantityOfHead } from '@/kit/quantity-field';
import { setChannelLimitsAct } from './bench-acts';

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

/** Address of an instrument with several inputs, and which of them: `127.0.0.1:5030#3`. */
function PlaceField({ name, label, example }: { name: string; label: string; example: string }) {
  const { field, problem } = useField(name);
  const place = field.value as ChannelWiring['thermometer'];
  const [text, setText] = useState(place ? `${place.address}#${place.input}` : '');
  return (
    <Label text={label} problem={problem}>
      <Input
        placeholder={example}
        value={text}
        onBlur={field.onBlur}
        onChange={({ target }) => {
          setText(target.value);
          const [address, input] = target.value.trim().split('#');
          field.onChange(address ? { address, input: Number(input ?? 1) } : null);
        }}
      />
    </Label>
  );
}

const ABILITIES = [
  ['canCharge', 'charges'],
  ['canDischarge', 'discharges'],
  ['enforcesCutoff', 'ends a discharge at its own cut-off'],
] as const;

/** Where the instruments of a channel answer. */
function WiringFields() {
  return (
    <fieldset>
      <legend className="mb-2 font-semibold">Where its instruments answer, for an agent</legend>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-5">
        <TextField name="wiring.load" label="Load" placeholder="127.0.0.1:5025" blank={null} />
        <TextField name="wiring.supply" label="Supply" placeholder="127.0.0.1:5026" blank={null} />
        <PlaceField
          name="wiring.thermometer"
          label="Thermometer # input"
          example="127.0.0.1:5030#3"
        />
        <PlaceField
          name="wiring.resistanceMeter"
          label="AC meter # input"
          example="127.0.0.1:5031#3"
        />
        <TextField name="agent" label="Agent (any: leave open)" placeholder="bench" />
      </div>
    </fieldset>
  );
}

const NOT_WIRED: ChannelWiring = {
  load: null,
  supply: null,
  thermometer: null,
  resistanceMeter: null,
};

/** What a channel can do and where its instruments answer. */
export function ChannelLimitsForm({ channel, done }: { channel: BoardChannel; done: () => void }) {
  const form = useLabForm({
    schema: 'channelLimitsInput',
    first: {
      channelId: channel.id,
      version: channel.version,
      limits: channel.limits,
      wiring: channel.wiring ?? NOT_WIRED,
      agent: channel.agent ?? '',
    },
    act: ({ wiring, ...rest }, key) =>
      setChannelLimitsAct(
        {
          ...rest,
          wiring: wiring?.load || wiring?.supply ? wiring : null,
        },
        key,
      ),
    done,
  });
  return (
    <Form
      of={form}
      label={`What ${channel.title} can do`}
      act="Keep"
      className="mt-3 space-y-4 border-t border-rule pt-3"
      beside={<Button onClick={done}>Leave as it was</Button>}
    >
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {NUMBERS.map(([name, words, optional]) => (
          <NumberField
            key={name}
            name={`limits.${name}`}
            quantity={quantityOfHead(words)}
            label={optional ? `${words} (none: leave open)` : words}
          />
        ))}
      </div>
      <fieldset className="flex flex-wrap gap-x-6 gap-y-2">
        <legend className="sr-only">Abilities</legend>
        {ABILITIES.map(([name, words]) => (
          <TickField key={name} name={`limits.${name}`} label={words} />
        ))}
        <TickField name="limits.wires" label="sense leads of its own (four wires)" yes={4} no={2} />
      </fieldset>
      <WiringFields />
    </Form>
  );
}
