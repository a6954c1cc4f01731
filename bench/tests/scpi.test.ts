import { createServer } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import {
  channelList,
  headerMatches,
  numberOf,
  parseMessage,
  QUEUE_LENGTH,
  ScpiClient,
  ScpiInstrument,
} from '../src/scpi';
import { InstrumentServer, SOUND_LINE } from '../src/simulated';

describe('a program message', () => {
  it('goes on from the path of the header before it', () => {
    expect(
      parseMessage('SOUR:VOLT 3.5;CURR 2;:MEAS:VOLT?;*OPC?').map(({ header, isQuery }) => [
        header,
        isQuery,
      ]),
    ).toEqual([
      ['SOUR:VOLT', false],
      ['SOUR:CURR', false],
      ['MEAS:VOLT', true],
      ['*OPC', true],
    ]);
  });
  it('keeps what stands in quotes and brackets together', () => {
    expect(parseMessage('MEAS:TEMP? (@1,3:4)')[0]!.parameters).toEqual(['(@1,3:4)']);
    expect(parseMessage('DISP "a;b",2')[0]!.parameters).toEqual(['"a;b"', '2']);
    expect(parseMessage(' ; ;')).toEqual([]);
  });
  it.each([
    ['MEASure:VOLTage', 'MEAS:VOLT', true],
    ['MEASure:VOLTage', 'MEASURE:VOLTAGE', true],
    ['MEASure:VOLTage', 'MEASU:VOLT', false],
    ['INPut[:STATe]', 'INP', true],
    ['INPut[:STATe]', 'INP:STAT', true],
    ['[SOURce:]CURRent', 'CURR', true],
    ['[SOURce:]CURRent', 'SOURCE:CURR', true],
    ['[SOURce:]CURRent', 'SOUR', false],
    ['SYSTem:ERRor[:NEXT]', 'SYST:ERR:COUN', false],
  ])('%s and %s: %s', (pattern, header, fits) => expect(headerMatches(pattern, header)).toBe(fits));
  it('lists channels', () => {
    expect(channelList('(@1:3,7)')).toEqual([1, 2, 3, 7]);
    expect(() => channelList('(@3:1)')).toThrow(RangeError);
    expect(() => channelList('1')).toThrow(RangeError);
  });
  it('takes numbers with units, within their range', () => {
    expect(numberOf('2.5 V', { low: 0, high: 10 })).toBe(2.5);
    expect(numberOf('-1e-3', { low: -1, high: 1 })).toBe(-0.001);
    expect(() => numberOf('two', { low: 0, high: 10 })).toThrow('Data type error');
    expect(() => numberOf('11', { low: 0, high: 10 })).toThrow('out of range');
    expect(() => numberOf(undefined, { low: 0, high: 10 })).toThrow('Missing parameter');
  });
});

describe('an instrument', () => {
  const make = () => {
    let volts = 1;
    return new ScpiInstrument(
      'A,B,C,1',
      [
        {
          pattern: 'VOLTage',
          set: ([text]) => void (volts = numberOf(text, { low: 0, high: 5 })),
          query: () => String(volts),
        },
      ],
      () => (volts = 0),
    );
  };
  it('answers several questions in one line', () =>
    expect(make().receive('VOLT 2;VOLT?;*IDN?')).toBe('2;A,B,C,1'));
  it('keeps errors in order until they are read', () => {
    const one = make();
    expect(one.receive('NONSENSE 4;VOLT 9;VOLT x;VOLT')).toBeNull();
    expect(one.receive('*STB?')).toBe('4');
    expect(
      ['SYST:ERR?', 'SYST:ERR:NEXT?', 'SYST:ERR?', 'SYST:ERR?', 'SYST:ERR?'].map(
        (ask) => one.receive(ask)?.split(',')[0],
      ),
    ).toEqual(['-113', '-222', '-104', '-109', '0']);
    expect(one.receive('*STB?')).toBe('0');
  });
  it('ends a full queue in −350', () => {
    const one = make();
    for (let i = 0; i < QUEUE_LENGTH + 9; i++) one.receive('NONSENSE');
    expect(one.receive('SYST:ERR:COUN?')).toBe(String(QUEUE_LENGTH));
    let last = '';
    for (let i = 0; i < QUEUE_LENGTH; i++) last = one.receive('SYST:ERR?')!;
    expect(last).toBe('-350,"Queue overflow"');
    expect(one.receive('SYST:ERR?')).toBe('0,"No error"');
  });
  it('sums events in the status byte as they are enabled, and clears them when read', () => {
    const one = make();
    expect(one.receive('*ESR?')).toBe('128');
    expect(one.receive('*ESE 32;*SRE 32;*STB?')).toBe('0');
    one.receive('NONSENSE');
    expect(one.statusByte()).toBe(4 + 32 + 64);
    expect(one.receive('*ESR?')).toBe('32');
    expect(one.receive('*ESR?;*STB?')).toBe('0;20');
    one.receive('*CLS');
    expect(one.receive('*STB?')).toBe('0');
    expect(one.receive('*OPC;*ESR?')).toBe('1');
    expect(one.receive('*RST;VOLT?;*TST?;*OPC?')).toBe('0;0;1');
  });
});

describe('the line to an instrument', () => {
  const open: { close: () => unknown }[] = [];
  afterEach(async () => {
    for (const one of open.splice(0)) await one.close();
  });
  const serve = async () => {
    const server = new InstrumentServer(
      new ScpiInstrument('A,B,C,1', [{ pattern: 'MEASure:ALL', query: () => '3.3,1.25' }]),
      () => undefined,
      7,
    );
    const address = await server.listen();
    const client = new ScpiClient(address, 120);
    open.push(client, server);
    return { server, client, address };
  };
  const fault = (promise: Promise<unknown>) =>
    promise.then(
      () => 'no fault',
      (error: { kind: string }) => error.kind,
    );

  it('asks one thing at a time, in the order it was asked', async () => {
    const { client } = await serve();
    const all = await Promise.all(Array.from({ length: 20 }, () => client.numbers('MEAS:ALL?', 2)));
    expect(all).toEqual(Array(20).fill([3.3, 1.25]));
  });
  it.each([
    ['silent', 'silent'],
    ['halfLine', 'silent'],
    ['garbage', 'garbage'],
    ['foreign', 'garbage'],
    ['disconnect', 'silent'],
    ['late', 'silent'],
  ] as const)('an answer that is %s is told, and the next is right', async (kind, said) => {
    const { client, server } = await serve();
    await client.numbers('MEAS:ALL?', 2);
    server.faults = { ...SOUND_LINE, lateMs: 200, [kind]: 1 };
    expect(await fault(client.numbers('MEAS:ALL?', 2))).toBe(said);
    server.faults = SOUND_LINE;
    expect(await client.numbers('MEAS:ALL?', 2)).toEqual([3.3, 1.25]);
    // What came late went nowhere.
    await new Promise((resolve) => setTimeout(resolve, 250));
    expect(await client.numbers('MEAS:ALL?', 2)).toEqual([3.3, 1.25]);
  });
  it('an answer with a part too many or too few is no answer', async () => {
    const { client } = await serve();
    expect(await fault(client.numbers('MEAS:ALL?', 3))).toBe('garbage');
    expect(await fault(client.numbers('MEAS:NOTHING?', 1))).toBe('garbage');
    expect(await client.numbers('MEAS:ALL?', 2)).toEqual([3.3, 1.25]);
  });
  it('another instrument at the same address is not taken for it', async () => {
    const { client, server, address } = await serve();
    await client.numbers('MEAS:ALL?', 2);
    await server.close();
    const other = new InstrumentServer(
      new ScpiInstrument('X,Y,Z,1', [{ pattern: 'MEASure:ALL', query: () => '9,9' }]),
      () => undefined,
      1,
    );
    await other.listen(Number(address.split(':')[1]));
    open.push(other);
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(await fault(client.numbers('MEAS:ALL?', 2))).toBe('garbage');
  });
  it('a server that only listens does not hold anyone up for long', async () => {
    const deaf = createServer(() => undefined);
    await new Promise<void>((resolve) => deaf.listen(0, '127.0.0.1', resolve));
    const client = new ScpiClient(`127.0.0.1:${(deaf.address() as { port: number }).port}`, 80);
    expect(await fault(client.numbers('MEAS:ALL?', 2))).toBe('silent');
    client.close();
    deaf.close();
  });
  it('nobody there', async () => {
    const client = new ScpiClient('127.0.0.1:1', 80);
    expect(await fault(client.numbers('MEAS:ALL?', 2))).toBe('unreachable');
  });
});
