/** The physical dimension of a column, from its unit. */
export type Dimension =
  | 'time'
  | 'voltage'
  | 'current'
  | 'charge'
  | 'energy'
  | 'power'
  | 'temperature'
  | 'resistance'
  | 'share';

/** Unit of a column, with its way to the stored one. */
export interface ColumnUnit {
  dimension: Dimension;
  /** Factor to s, V, A, Ah, Wh, W, °C, mΩ. */
  factor: number;
  /** Added after the factor (Kelvin, Fahrenheit). */
  offset: number;
  symbol: string;
}

const unit = (dimension: Dimension, factor: number, symbol: string, offset = 0): ColumnUnit => ({
  dimension,
  factor,
  offset,
  symbol,
});

const BASES: ReadonlyMap<string, ColumnUnit> = new Map(
  Object.entries<ColumnUnit>({
    s: unit('time', 1, 's'),
    sec: unit('time', 1, 's'),
    secs: unit('time', 1, 's'),
    second: unit('time', 1, 's'),
    seconds: unit('time', 1, 's'),
    ms: unit('time', 1e-3, 'ms'),
    msec: unit('time', 1e-3, 'ms'),
    us: unit('time', 1e-6, 'µs'),
    min: unit('time', 60, 'min'),
    mins: unit('time', 60, 'min'),
    minutes: unit('time', 60, 'min'),
    h: unit('time', 3600, 'h'),
    hr: unit('time', 3600, 'h'),
    hrs: unit('time', 3600, 'h'),
    hours: unit('time', 3600, 'h'),
    d: unit('time', 86400, 'd'),
    day: unit('time', 86400, 'd'),
    days: unit('time', 86400, 'd'),
    sek: unit('time', 1, 's'),
    sekunden: unit('time', 1, 's'),
    secondes: unit('time', 1, 's'),
    segundos: unit('time', 1, 's'),
    secondi: unit('time', 1, 's'),
    seconden: unit('time', 1, 's'),
    minuten: unit('time', 60, 'min'),
    minutos: unit('time', 60, 'min'),
    minuti: unit('time', 60, 'min'),
    std: unit('time', 3600, 'h'),
    stunden: unit('time', 3600, 'h'),
    heures: unit('time', 3600, 'h'),
    horas: unit('time', 3600, 'h'),
    uren: unit('time', 3600, 'h'),
    'hh:mm:ss': unit('time', 1, 'h:mm:ss'),
    'h:mm:ss': unit('time', 1, 'h:mm:ss'),
    'h:m:s': unit('time', 1, 'h:mm:ss'),
    'hh:mm:ss.000': unit('time', 1, 'h:mm:ss'),
    v: unit('voltage', 1, 'V'),
    mv: unit('voltage', 1e-3, 'mV'),
    uv: unit('voltage', 1e-6, 'µV'),
    volt: unit('voltage', 1, 'V'),
    volts: unit('voltage', 1, 'V'),
    millivolts: unit('voltage', 1e-3, 'mV'),
    vdc: unit('voltage', 1, 'V'),
    a: unit('current', 1, 'A'),
    ma: unit('current', 1e-3, 'mA'),
    ua: unit('current', 1e-6, 'µA'),
    amp: unit('current', 1, 'A'),
    amps: unit('current', 1, 'A'),
    ampere: unit('current', 1, 'A'),
    amperes: unit('current', 1, 'A'),
    milliamps: unit('current', 1e-3, 'mA'),
    adc: unit('current', 1, 'A'),
    ah: unit('charge', 1, 'Ah'),
    mah: unit('charge', 1e-3, 'mAh'),
    as: unit('charge', 1 / 3600, 'As'),
    'a.h': unit('charge', 1, 'Ah'),
    'a·h': unit('charge', 1, 'Ah'),
    'ma.h': unit('charge', 1e-3, 'mAh'),
    'a*h': unit('charge', 1, 'Ah'),
    coulomb: unit('charge', 1 / 3600, 'C'),
    wh: unit('energy', 1, 'Wh'),
    mwh: unit('energy', 1e-3, 'mWh'),
    kwh: unit('energy', 1e3, 'kWh'),
    'w.h': unit('energy', 1, 'Wh'),
    'w·h': unit('energy', 1, 'Wh'),
    'w*h': unit('energy', 1, 'Wh'),
    j: unit('energy', 1 / 3600, 'J'),
    w: unit('power', 1, 'W'),
    mw: unit('power', 1e-3, 'mW'),
    kw: unit('power', 1e3, 'kW'),
    watt: unit('power', 1, 'W'),
    watts: unit('power', 1, 'W'),
    '°c': unit('temperature', 1, '°C'),
    ºc: unit('temperature', 1, '°C'),
    '℃': unit('temperature', 1, '°C'),
    c: unit('temperature', 1, '°C'),
    degc: unit('temperature', 1, '°C'),
    celsius: unit('temperature', 1, '°C'),
    'deg c': unit('temperature', 1, '°C'),
    'deg. c': unit('temperature', 1, '°C'),
    k: unit('temperature', 1, 'K', -273.15),
    kelvin: unit('temperature', 1, 'K', -273.15),
    '°f': unit('temperature', 5 / 9, '°F', -160 / 9),
    degf: unit('temperature', 5 / 9, '°F', -160 / 9),
    ohm: unit('resistance', 1e3, 'Ω'),
    ohms: unit('resistance', 1e3, 'Ω'),
    ω: unit('resistance', 1e3, 'Ω'),
    mohm: unit('resistance', 1, 'mΩ'),
    mω: unit('resistance', 1, 'mΩ'),
    '%': unit('share', 1, '%'),
  }),
);

/**
 * The unit a text names, whatever its case and micro sign; null when it is none.
 * @example columnUnit('mAh').factor // 0.001
 */
export function columnUnit(text: string): ColumnUnit | null {
  const key = text.trim().toLowerCase().replace(/[µμ]/g, 'u').replace('ω', 'ω');
  return BASES.get(key) ?? null;
}

/** Longer header cells say nothing more. */
const LONGEST_HEADER = 120;

/**
 * Name and unit of a header cell, from brackets, a slash or its last word: `Voltage / V`, `U (V)`,
 * `cell1_V`, `mAh`, `amps`.
 * @example splitHeader('U (V)').name // 'U'
 */
export function splitHeader(cell: string): { name: string; unit: ColumnUnit | null } {
  const text = cell
    .slice(0, 4 * LONGEST_HEADER)
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, LONGEST_HEADER)
    .replace(/^["']|["']$/g, '');
  const bracketed = /^(.*?)\s*[[({<]\s*([^\])}>]*?)\s*[\])}>]\s*$/.exec(text);
  if (bracketed) {
    const found = columnUnit(bracketed[2]!);
    if (found) return { name: bracketed[1]!, unit: found };
  }
  const whole = columnUnit(text);
  if (whole && text.length > 0) return { name: '', unit: whole };
  const slashed = /^(.*\S)\s*\/\s*([^/]+)$/.exec(text);
  if (slashed) {
    const found = columnUnit(slashed[2]!);
    if (found) return { name: slashed[1]!, unit: found };
  }
  const suffixed = /^(.+?)[_\s.:-]+([^_\s.:-]+)$/.exec(text);
  if (suffixed) {
    const found = columnUnit(suffixed[2]!);
    if (found) return { name: suffixed[1]!, unit: found };
  }
  return { name: bracketed ? bracketed[1]! : text, unit: null };
}
