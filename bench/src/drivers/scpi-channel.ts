import type { ChannelWiring, OwnLimits, SetPoint } from '@dusk-tally/core/bench';
import { InstrumentFault, type ScpiClient } from '../scpi';
import { type ChannelDriver, type ChannelDrivers, plausible, type Shown } from './channel-driver';
import { ScpiLines } from './scpi-lines';

/** A channel whose instruments speak SCPI over TCP. */
class ScpiChannel implements ChannelDriver {
  /** How often it was switched off: what was on its way to be switched on then is not. */
  private stops = 0;

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
  async apply(set: SetPoint, own?: OwnLimits): Promise<string[]> {
    const { load, supply } = this;
    if (set.kind === 'off') {
      this.stops++;
      // Both are tried: one that does not answer keeps nobody from switching the other off.
      const tried = await Promise.allSettled([load?.send('INP OFF'), supply?.send('OUTP OFF')]);
      for (const one of tried) if (one.status === 'rejected') throw one.reason;
      return [];
    }
    const before = this.stops;
    const stillWanted = () => {
      if (this.stops !== before)
        throw new InstrumentFault('unreachable', 'The channel was switched off meanwhile.');
    };
    if (set.kind === 'charge') {
      if (!supply) throw new InstrumentFault('unreachable', 'This channel has no supply.');
      await load?.send('INP OFF');
      const lacking = own ? await limitBy(supply, own, true) : [];
      stillWanted();
      await supply.send(`:VOLT ${set.volts.toFixed(4)};:CURR ${set.amps.toFixed(4)};:OUTP ON`);
      return lacking;
    }
    if (!load) throw new InstrumentFault('unreachable', 'This channel has no load.');
    await supply?.send('OUTP OFF');
    const lacking = own ? await limitBy(load, own, false) : [];
    const how = {
      current: `:FUNC CURR;:CURR ${set.set.toFixed(4)}`,
      power: `:FUNC POW;:POW ${set.set.toFixed(3)}`,
      resistor: `:FUNC RES;:RES ${set.set.toFixed(4)}`,
    }[set.mode];
    stillWanted();
    // The cut-off is on the instrument before the current is: it holds without the agent, too.
    await load.send(`:VOLT:CUT ${set.cutoffV.toFixed(4)};${how};:INP ON`);
    return lacking;
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

/** Words an instrument has for the limits it holds by itself. */
function limitWords(own: OwnLimits, isSupply: boolean): [string, string][] {
  return [
    ...(isSupply
      ? [['voltage', `:VOLT:PROT ${own.aboveV.toFixed(3)}`] satisfies [string, string]]
      : []),
    ...(own.ah === null
      ? []
      : [['charge', `:CHAR:LIM ${own.ah.toFixed(4)}`] satisfies [string, string]]),
    ['time', `:TIME:LIM ${own.seconds.toFixed(0)}`],
  ];
}

/**
 * Tells an instrument what to end by itself.
 * @returns which limits it does not take. @throws InstrumentFault where it does not answer.
 */
async function limitBy(client: ScpiClient, own: OwnLimits, isSupply: boolean): Promise<string[]> {
  const words = limitWords(own, isSupply);
  const isRefused = (error: unknown) => {
    if (!(error instanceof InstrumentFault && error.kind === 'refused')) throw error;
    return true;
  };
  const refused = await client
    .send(words.map(([, command]) => command).join(';'))
    .then(() => false, isRefused);
  if (!refused) return [];
  const lacking: string[] = [];
  for (const [what, command] of words)
    if (await client.send(command).then(() => false, isRefused)) lacking.push(what);
  return lacking;
}

/** Drivers of channels that speak SCPI. @param timeoutMs longest an instrument is waited for. */
export function scpiDrivers(timeoutMs: number): ChannelDrivers {
  const lines = new ScpiLines(timeoutMs);
  return { of: (wiring) => new ScpiChannel(lines, wiring), close: () => lines.close() };
}
