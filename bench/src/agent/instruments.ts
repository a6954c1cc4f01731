import type { Assignment, ChannelWiring, SetPoint } from '@dusk-tally/core/bench';
import { InstrumentFault, ScpiClient } from '../scpi';

/** All lines to instruments; one for each address, shared by the channels on it. */
export class Instruments {
  private readonly clients = new Map<string, ScpiClient>();
  private readonly warmth = new Map<
    string,
    { inputs: Set<number>; atMs: number; reading: Promise<Map<number, number>> | null }
  >();

  constructor(private readonly timeoutMs: number) {}

  at(address: string): ScpiClient {
    let client = this.clients.get(address);
    if (!client) this.clients.set(address, (client = new ScpiClient(address, this.timeoutMs)));
    return client;
  }

  /**
   * Temperature at an input, °C. Inputs of one thermometer are asked for together; an answer
   * younger than `maxAgeMs` serves all of them.
   */
  async temperatureC(
    { address, input }: { address: string; input: number },
    maxAgeMs: number,
  ): Promise<number> {
    let shared = this.warmth.get(address);
    if (!shared)
      this.warmth.set(address, (shared = { inputs: new Set(), atMs: -Infinity, reading: null }));
    const isNew = !shared.inputs.has(input);
    shared.inputs.add(input);
    const now = performance.now();
    if (isNew || !shared.reading || now - shared.atMs > maxAgeMs) {
      const inputs = [...shared.inputs].sort((a, b) => a - b);
      shared.atMs = now;
      shared.reading = this.at(address)
        .numbers(`MEAS:TEMP? (@${inputs.join(',')})`, inputs.length)
        .then((values) => new Map(inputs.map((one, i) => [one, values[i]!])));
      shared.reading.catch(() => {
        shared.atMs = -Infinity;
      });
    }
    return (await shared.reading).get(input)!;
  }

  close(): void {
    for (const client of this.clients.values()) client.close();
  }
}

/** What the instruments of a channel show. */
export interface Shown {
  voltageV: number;
  /** Discharge negative, A. */
  currentA: number;
  counterAh: number | null;
  /** The instrument’s own clock, s from any start; null where it shows none. */
  clockS: number | null;
}

/** Sets and reads the instruments of one channel. */
export class ChannelDriver {
  constructor(
    private readonly instruments: Instruments,
    readonly wiring: ChannelWiring,
  ) {}

  private get load(): ScpiClient | null {
    return this.wiring.load ? this.instruments.at(this.wiring.load) : null;
  }
  private get supply(): ScpiClient | null {
    return this.wiring.supply ? this.instruments.at(this.wiring.supply) : null;
  }

  /** Brings the instruments to a setting: the other one off first, current from zero. @throws InstrumentFault */
  async apply(set: SetPoint): Promise<void> {
    const { load, supply } = this;
    if (set.kind === 'off') {
      await Promise.all([load?.send('INP OFF'), supply?.send('OUTP OFF')]);
      return;
    }
    if (set.kind === 'charge') {
      if (!supply) throw new InstrumentFault('unreachable', 'This channel has no supply.');
      await load?.send('INP OFF');
      await supply.send(`:VOLT ${set.volts.toFixed(4)};:CURR ${set.amps.toFixed(4)};:OUTP ON`);
      return;
    }
    if (!load) throw new InstrumentFault('unreachable', 'This channel has no load.');
    await supply?.send('OUTP OFF');
    const how = {
      current: `:FUNC CURR;:CURR ${set.set.toFixed(4)}`,
      power: `:FUNC POW;:POW ${set.set.toFixed(3)}`,
      resistor: `:FUNC RES;:RES ${set.set.toFixed(4)}`,
    }[set.mode];
    // The cut-off is on the instrument before the current is: it holds without the agent, too.
    await load.send(`:VOLT:CUT ${set.cutoffV.toFixed(4)};${how};:INP ON`);
  }

  /** What is shown under a setting. @throws InstrumentFault */
  async read(set: SetPoint): Promise<Shown> {
    const { load, supply } = this;
    if (supply && (set.kind === 'charge' || !load)) {
      const [voltageV, currentA, clockS] = await supply.numbers('MEAS:ALL?', 2, 3);
      return plausible(
        { voltageV: voltageV!, currentA: currentA!, counterAh: null, clockS: clockS ?? null },
        supply.address,
      );
    }
    if (!load) throw new InstrumentFault('unreachable', 'This channel has no instrument.');
    const [voltageV, currentA, counterAh, clockS] = await load.numbers('MEAS:ALL?', 3, 4);
    return plausible(
      {
        voltageV: voltageV!,
        currentA: -currentA!,
        counterAh: counterAh!,
        clockS: clockS ?? null,
      },
      load.address,
    );
  }

  async temperatureC(maxAgeMs: number): Promise<number | null> {
    return this.wiring.thermometer
      ? this.instruments.temperatureC(this.wiring.thermometer, maxAgeMs)
      : null;
  }

  /** AC resistance, mΩ; null without a meter. @throws InstrumentFault */
  async acMohm(): Promise<number | null> {
    const meter = this.wiring.resistanceMeter;
    if (!meter) return null;
    const [ohm] = await this.instruments
      .at(meter.address)
      .numbers(`MEAS:IMP? (@${meter.input})`, 2);
    return ohm! * 1000;
  }

  /** Errors the instruments hold, oldest first; reading them clears them. @throws InstrumentFault */
  async errors(): Promise<string[]> {
    const found: string[] = [];
    for (const client of [this.load, this.supply]) {
      if (!client) continue;
      const [status] = await client.numbers('*STB?', 1);
      if (status! & 4) found.push(...(await client.errors()));
    }
    return found;
  }

  /** Has a simulated bench put a cell in; a real one has it already. @throws InstrumentFault */
  async connect(
    cell: string,
    { chemistry, ratedAh, stateOfCharge, capacityAh }: Assignment['connected'],
  ): Promise<void> {
    const { load } = this;
    if (!load || !(await load.ask('*IDN?', (name) => name)).includes('SIMULATED')) return;
    await load.send(
      `:SIM:CELL "${chemistry}",${ratedAh},${stateOfCharge.toFixed(4)},"${cell}",${(capacityAh ?? 0).toFixed(5)}`,
    );
  }

  /** Sets the load’s counter to zero. @throws InstrumentFault */
  async clearCounter(): Promise<void> {
    await this.load?.send('CHAR:CLE');
  }
}

/** No instrument of a bench shows more than this. */
const MOST = { volts: 1000, amps: 2000 } as const;

function plausible(shown: Shown, address: string): Shown {
  if (Math.abs(shown.voltageV) > MOST.volts || Math.abs(shown.currentA) > MOST.amps)
    throw new InstrumentFault(
      'garbage',
      `${address} shows ${shown.voltageV} V and ${shown.currentA} A, which no bench does.`,
    );
  return shown;
}
