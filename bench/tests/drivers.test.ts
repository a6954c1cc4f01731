import { Socket } from 'node:net';
import type { Assignment } from '@dusk-tally/core/bench';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type ChannelDriver, scpiDrivers } from '../src/drivers';
import { ControlServer, SimulatedBench, tell } from '../src/simulated';

const DESCRIPTION = {
  seed: 3,
  speed: 100,
  port: 0,
  capacitySpread: 0,
  places: [
    { chemistry: 'LFP' as const, ratedAh: 6, stateOfCharge: 0.5 },
    { chemistry: 'LFP' as const, ratedAh: 6, stateOfCharge: 0.5 },
  ],
};

describe('a channel driven by SCPI', () => {
  let bench: SimulatedBench;
  let drivers: ReturnType<typeof scpiDrivers>;
  let driver: ChannelDriver;
  beforeEach(async () => {
    bench = new SimulatedBench(DESCRIPTION);
    const [wiring] = await bench.open();
    drivers = scpiDrivers(500);
    driver = drivers.of(wiring!);
  });
  afterEach(async () => {
    drivers.close();
    await bench.close();
  });

  it('names its instruments, and nothing in their names tells what is behind them', async () => {
    const names = await driver.identify();
    expect(names).toEqual(['DUSK TALLY,LOAD,L1,1.0', 'DUSK TALLY,SUPPLY,S1,1.0']);
    expect(names.join().toLowerCase()).not.toContain('simul');
  });

  it('sets, reads and stops, with one instrument on at a time', async () => {
    const place = bench.places[0]!;
    await driver.apply({ kind: 'charge', amps: 2, volts: 3.6 });
    expect([place.supply.on, place.load.on]).toEqual([true, false]);
    const charging = await driver.read({ kind: 'charge', amps: 2, volts: 3.6 });
    expect(charging.currentA).toBeGreaterThan(0);
    const discharge = { kind: 'discharge', mode: 'current', set: 3, cutoffV: 2.5 } as const;
    await driver.apply(discharge);
    expect([place.supply.on, place.load.on]).toEqual([false, true]);
    expect(place.load.cutoffV).toBe(2.5);
    const shown = await driver.read(discharge);
    expect(shown.currentA).toBeCloseTo(-3, 1);
    expect(shown.counterAh).toBeGreaterThanOrEqual(0);
    await driver.stop();
    expect([place.supply.on, place.load.on]).toEqual([false, false]);
  });

  it('is prepared with everything off and its counter at zero', async () => {
    const place = bench.places[0]!;
    place.counterAh = 3.2;
    await driver.apply({ kind: 'discharge', mode: 'current', set: 3, cutoffV: 2.5 });
    await driver.prepare();
    expect(place.load.on).toBe(false);
    expect((await driver.read({ kind: 'off' })).counterAh).toBeLessThan(0.001);
  });

  it('an order of the simulation is no command of an instrument', async () => {
    const [load] = bench.loads;
    expect(load!.instrument.receive(':SIM:CELL "LFP",6,0.5,"A-1",0')).toBeNull();
    expect(load!.instrument.receive('SYST:ERR?')).toContain('-113');
  });
});

describe('the control socket of the simulated bench', () => {
  let bench: SimulatedBench;
  let control: ControlServer;
  let address = '';
  let loads: string[] = [];
  beforeEach(async () => {
    bench = new SimulatedBench(DESCRIPTION);
    loads = (await bench.open()).map(({ load }) => load!);
    control = new ControlServer(bench);
    address = await control.listen();
  });
  afterEach(async () => {
    await control.close();
    await bench.close();
  });
  const cell: Assignment['expected'] & { number: string } = {
    number: 'A-0001',
    chemistry: 'LFP',
    ratedAh: 10,
    stateOfCharge: 0.9,
    capacityAh: 9.1,
  };

  it('puts a cell into the place at an address, and no other', async () => {
    const before = bench.places[0]!.snapshot();
    await tell(address, { do: 'insert', at: loads[1]!, cell });
    expect(bench.places[0]!.snapshot()).toEqual(before);
    expect(bench.places[1]!.shownV()).toBeGreaterThan(3.3);
    await tell(address, { do: 'moveClock', at: loads[1]!, seconds: 90 });
    expect(bench.places[1]!.clockOffS).toBe(90);
  });

  it.each([
    ['an address nobody has', { do: 'insert', at: '127.0.0.1:1', cell }, 'address of a load'],
    [
      'a chemistry nobody knows',
      { do: 'insert', at: '', cell: { ...cell, chemistry: 'XYZ' } },
      'LFP',
    ],
    [
      'a state of charge above full',
      { do: 'insert', at: '', cell: { ...cell, stateOfCharge: 4 } },
      '0 to 1',
    ],
    ['another order', { do: 'explode', at: '' }, 'insert'],
  ])('refuses %s and goes on', async (_, order, says) => {
    const at = order.at === '' ? loads[0]! : order.at;
    await expect(tell(address, { ...order, at } as Parameters<typeof tell>[1])).rejects.toThrow(
      says,
    );
    await tell(address, { do: 'insert', at: loads[0]!, cell });
  });

  it('answers what is no JSON with an error, too', async () => {
    const [host, port] = address.split(':') as [string, string];
    const answer = await new Promise<string>((resolve) => {
      const socket = new Socket();
      socket.once('data', (data) => {
        resolve(String(data));
        socket.destroy();
      });
      socket.connect(Number(port), host, () => socket.write('hello\n'));
    });
    expect(JSON.parse(answer)).toMatchObject({ ok: false });
  });
});
