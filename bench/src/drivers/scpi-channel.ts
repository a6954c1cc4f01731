import type { ChannelWiring, SetPoint } from '@dusk-tally/core/bench';
import { InstrumentFault, type ScpiClient } from '../scpi';
import { type ChannelDriver, type ChannelDrivers, plausible, type Shown } from './channel-driver';
import { ScpiLines } from './scpi-lines';

/** A channel whose instruments speak SCPI over TCP. */
class ScpiChannel implements ChannelDriver {
  constructor(
    private readonly lines: ScpiLines,
    readonly wiring: ChannelWiring,
  ) {}

  private get load(): ScpiClient | null {
    return this.wiring.load ? this.lines.at(this.wiring.load) : null;
  }
  private get supply(): ScpiClient | null {
    return this.wiring.supply ? this.lines.at(this.wiring.supply) : null;
  }

  identify(): Promise<string[]> {
    return Promise.all(
      [this.load, this.supply]
        .filter((client) => client !== null)
        .map((client) => client.ask('*IDN?', (name) => name)),
    );
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
      ? this.lines.temperatureC(this.wiring.thermometer, maxAgeMs)
      : null;
  }

  /** AC resistance, mΩ; null without a meter. @throws InstrumentFault */
  async acMohm(): Promise<number | null> {
    const meter = this.wiring.resistanceMeter;
    if (!meter) return null;
    const [ohm] = await this.lines.at(meter.address).numbers(`MEAS:IMP? (@${meter.input})`, 2);
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

  async prepare(): Promise<void> {
    await this.stop();
    await this.load?.send('CHAR:CLE');
  }

  async stop(): Promise<void> {
    await this.apply({ kind: 'off' });
  }
}

/** Drivers of channels that speak SCPI. @param timeoutMs longest an instrument is waited for. */
export function scpiDrivers(timeoutMs: number): ChannelDrivers {
  const lines = new ScpiLines(timeoutMs);
  return { of: (wiring) => new ScpiChannel(lines, wiring), close: () => lines.close() };
}
