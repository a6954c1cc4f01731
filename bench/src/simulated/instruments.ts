import { channelList, type Command, numberOf, ScpiInstrument, switchOf } from '../scpi';
import type { OwnEnds } from './place-state';
import type { SimulatedPlace } from './simulated-place';

/** Largest settings of the simulated load and supply. */
const MOST = { amps: 200, watts: 2000, ohm: 10_000, volts: 60 } as const;

const IDENTITY = (kind: string, serial: string) => `DUSK TALLY,${kind},${serial},1.0`;
const number = (value: number) => value.toFixed(5);

/** No limit is held after a reset. */
const NO_LIMITS = { aboveV: 0, ah: 0, seconds: 0 } as const;

/**
 * Charge and time after which an instrument switches off by itself, counted from when the limit was
 * given; 0 for no limit.
 */
const ownEnds = (ends: () => OwnEnds): Command[] => [
  {
    pattern: 'CHARge:LIMit',
    set: ([value]) =>
      void Object.assign(ends(), { ah: numberOf(value, { low: 0, high: 1e6 }), movedAh: 0 }),
    query: () => number(ends().ah),
  },
  {
    pattern: 'TIME:LIMit',
    set: ([value]) =>
      void Object.assign(ends(), { seconds: numberOf(value, { low: 0, high: 1e9 }), sinceS: 0 }),
    query: () => number(ends().seconds),
  },
];

/** An electronic load with a charge counter and a cut-off of its own. */
export function simulatedLoad(serial: string, place: () => SimulatedPlace): ScpiInstrument {
  const current = { low: 0, high: MOST.amps };
  const setting = () => place().load;
  const modes = {
    CURR: 'current',
    CURRENT: 'current',
    POW: 'power',
    POWER: 'power',
    RES: 'resistor',
    RESISTANCE: 'resistor',
  } as const;
  return new ScpiInstrument(
    IDENTITY('LOAD', serial),
    [
      {
        pattern: '[SOURce:]FUNCtion',
        set: ([word]) => {
          const mode = modes[(word ?? '').toUpperCase() as keyof typeof modes];
          if (!mode) throw new RangeError('Expected CURRent, POWer or RESistance');
          setting().mode = mode;
        },
        query: () => ({ current: 'CURR', power: 'POW', resistor: 'RES' })[setting().mode],
      },
      {
        pattern: '[SOURce:]CURRent',
        set: ([value]) => (setting().currentA = numberOf(value, current)),
        query: () => number(setting().currentA),
      },
      {
        pattern: '[SOURce:]POWer',
        set: ([value]) => (setting().powerW = numberOf(value, { low: 0, high: MOST.watts })),
        query: () => number(setting().powerW),
      },
      {
        pattern: '[SOURce:]RESistance',
        set: ([value]) => (setting().ohm = numberOf(value, { low: 0.01, high: MOST.ohm })),
        query: () => number(setting().ohm),
      },
      {
        pattern: '[SOURce:]VOLTage:CUToff',
        set: ([value]) => (setting().cutoffV = numberOf(value, { low: 0, high: MOST.volts })),
        query: () => number(setting().cutoffV),
      },
      {
        pattern: 'INPut[:STATe]',
        set: ([word]) => place().turn('load', switchOf(word)),
        query: () => (setting().on ? '1' : '0'),
      },
      ...ownEnds(() => place().ends.load),
      { pattern: 'CHARge:CLEar', set: () => void (place().counterAh = 0) },
      { pattern: 'MEASure:VOLTage', query: () => number(place().shownV()) },
      { pattern: 'MEASure:CURRent', query: () => number(Math.max(0, -place().shownA())) },
      { pattern: 'MEASure:CHARge', query: () => number(place().counterAh) },
      {
        pattern: 'MEASure:ALL',
        query: () =>
          [place().shownV(), Math.max(0, -place().shownA()), place().counterAh, place().clockS]
            .map(number)
            .join(','),
      },
    ] as ConstructorParameters<typeof ScpiInstrument>[1],
    () => {
      Object.assign(place().ends.load, NO_LIMITS);
      Object.assign(setting(), {
        on: false,
        mode: 'current',
        currentA: 0,
        powerW: 0,
        ohm: 10,
        cutoffV: 0,
      });
    },
  );
}

/** A supply that holds current, then voltage. */
export function simulatedSupply(serial: string, place: () => SimulatedPlace): ScpiInstrument {
  const setting = () => place().supply;
  return new ScpiInstrument(
    IDENTITY('SUPPLY', serial),
    [
      {
        pattern: '[SOURce:]VOLTage',
        set: ([value]) => void (setting().volts = numberOf(value, { low: 0, high: MOST.volts })),
        query: () => number(setting().volts),
      },
      {
        pattern: '[SOURce:]CURRent',
        set: ([value]) => void (setting().amps = numberOf(value, { low: 0, high: MOST.amps })),
        query: () => number(setting().amps),
      },
      {
        pattern: 'OUTPut[:STATe]',
        set: ([word]) => place().turn('supply', switchOf(word)),
        query: () => (setting().on ? '1' : '0'),
      },
      {
        pattern: '[SOURce:]VOLTage:PROTection',
        set: ([value]) =>
          void (place().ends.supply.aboveV = numberOf(value, { low: 0, high: MOST.volts })),
        query: () => number(place().ends.supply.aboveV),
      },
      ...ownEnds(() => place().ends.supply),
      { pattern: 'MEASure:VOLTage', query: () => number(place().shownV()) },
      { pattern: 'MEASure:CURRent', query: () => number(Math.max(0, place().shownA())) },
      {
        pattern: 'MEASure:ALL',
        query: () =>
          [place().shownV(), Math.max(0, place().shownA()), place().clockS].map(number).join(','),
      },
    ],
    () => {
      Object.assign(place().ends.supply, NO_LIMITS);
      Object.assign(setting(), { on: false, volts: 0, amps: 0 });
    },
  );
}

/** Readings of the places a channel list names; all of them without one. */
const listed = (
  places: readonly (() => SimulatedPlace)[],
  list: string | undefined,
): SimulatedPlace[] =>
  (list ? channelList(list) : places.map((_, i) => i + 1)).map((input) => {
    const place = places[input - 1];
    if (!place) throw new RangeError(`Expected inputs 1 to ${places.length}; found ${input}.`);
    return place();
  });

/** A thermometer with an input for each place. */
export const simulatedThermometer = (
  serial: string,
  places: readonly (() => SimulatedPlace)[],
): ScpiInstrument =>
  new ScpiInstrument(IDENTITY('THERMOMETER', serial), [
    {
      pattern: 'MEASure:TEMPerature',
      query: ([list]) =>
        listed(places, list)
          .map((place) => place.shownC().toFixed(2))
          .join(','),
    },
  ]);

/** An AC resistance meter with a scanner: resistance in Ω and voltage. */
export const simulatedResistanceMeter = (
  serial: string,
  places: readonly (() => SimulatedPlace)[],
): ScpiInstrument =>
  new ScpiInstrument(IDENTITY('AC METER', serial), [
    {
      pattern: 'MEASure:IMPedance',
      query: ([list]) =>
        listed(places, list)
          .map((place) => `${(place.acMohm() / 1000).toFixed(7)},${place.shownV().toFixed(4)}`)
          .join(','),
    },
  ]);
