/** What may be typed into a field, and the unit it is stored in. */
export type TypedQuantity =
  | 'capacityAh'
  | 'resistanceMohm'
  | 'voltageV'
  | 'massG'
  | 'currentA'
  | 'lengthMm'
  | 'energyWh'
  | 'durationH'
  | 'durationMin'
  | 'powerW'
  | 'temperatureC'
  | 'percent'
  | 'share'
  | 'ppm'
  | 'rateIt'
  | 'torqueNm'
  | 'areaMm2'
  | 'cableM'
  | 'money'
  | 'count'
  | 'plain';

/** A typed quantity as understood, or what was expected. */
export type ParsedQuantity =
  | {
      ok: true;
      value: number;
      /** Digits after the point that were typed, in the stored unit: zeros at the end are meant. */
      decimals: number;
      unitTyped: string | null;
      /** Other value that may have been meant, asked about before it is kept; absent where clear. */
      doubt?: string;
      /** Value that would be, in the stored unit; with `doubt`. */
      otherwise?: number;
    }
  | { ok: false; message: string };

const KNOWN = { k: 1e3, m: 1e-3, u: 1e-6 } as const;

/** Units of a base with their prefixes, case told apart: `m` is milli, `M` is never taken for it. */
const withPrefixes = (
  base: string,
  toStored: number,
  prefixes: readonly (keyof typeof KNOWN)[],
): Record<string, number> =>
  Object.fromEntries([
    [base, toStored],
    ...prefixes.map((prefix): [string, number] => [`${prefix}${base}`, KNOWN[prefix] * toStored]),
  ]);

/** Factor from a typed unit to the stored unit, per quantity. */
const FACTORS: Record<TypedQuantity, Record<string, number>> = {
  capacityAh: {
    ...withPrefixes('Ah', 1, ['m', 'u', 'k']),
    As: 1 / 3600,
    C: 1 / 3600,
  },
  resistanceMohm: withPrefixes('Ω', 1e3, ['m', 'u', 'k']),
  voltageV: withPrefixes('V', 1, ['m', 'u', 'k']),
  massG: withPrefixes('g', 1, ['m', 'k']),
  currentA: withPrefixes('A', 1, ['m', 'u', 'k']),
  durationH: { h: 1, min: 1 / 60, s: 1 / 3600 },
  energyWh: { ...withPrefixes('Wh', 1, ['m', 'k']), J: 1 / 3600, kJ: 1 / 3.6 },
  lengthMm: { mm: 1, cm: 10, m: 1e3, um: 1e-3 },
  durationMin: { min: 1, h: 60, s: 1 / 60 },
  powerW: withPrefixes('W', 1, ['m', 'k']),
  temperatureC: { '°C': 1, C: 1 },
  percent: { '%': 1 },
  share: { '%': 0.01 },
  ppm: { ppm: 1, '%': 1e4 },
  rateIt: { It: 1, C: 1 },
  torqueNm: { Nm: 1, 'N·m': 1, Ncm: 0.01 },
  areaMm2: { mm2: 1, 'mm²': 1 },
  cableM: { m: 1, cm: 0.01, mm: 1e-3 },
  money: {},
  count: {},
  plain: {},
};

/** Unit a quantity is stored in, as shown; empty where it has none. */
export const STORED_UNIT: Record<TypedQuantity, string> = {
  capacityAh: 'Ah',
  resistanceMohm: 'mΩ',
  voltageV: 'V',
  massG: 'g',
  currentA: 'A',
  lengthMm: 'mm',
  energyWh: 'Wh',
  durationH: 'h',
  durationMin: 'min',
  powerW: 'W',
  temperatureC: '°C',
  percent: '%',
  share: '',
  ppm: 'ppm',
  rateIt: 'It',
  torqueNm: 'N·m',
  areaMm2: 'mm²',
  cableM: 'm',
  money: '',
  count: '',
  plain: '',
};

const EXPECTED: Record<TypedQuantity, string> = {
  capacityAh: 'a number in Ah, or with mAh',
  resistanceMohm: 'a number in mΩ, or with ohm, kΩ or µΩ',
  voltageV: 'a number in V, or with mV',
  massG: 'a number in g, or with kg',
  currentA: 'a number in A, or with mA',
  durationH: 'a number in h, or with min',
  energyWh: 'a number in Wh, or with kWh',
  lengthMm: 'a number in mm, or with cm',
  durationMin: 'a number in min, or with h',
  powerW: 'a number in W, or with kW',
  temperatureC: 'a number in °C',
  percent: 'a number in %',
  share: 'a share such as 0.02, or in %',
  ppm: 'a number in ppm, or with %',
  rateIt: 'a number in It',
  torqueNm: 'a number in N·m, or with Ncm',
  areaMm2: 'a number in mm²',
  cableM: 'a number in m, or with cm',
  money: 'an amount such as 1250 or 1250.50',
  count: 'a whole number',
  plain: 'a number',
};

/** Longer texts are no figure. */
const LONGEST = 60;

/** Full-width digits, signs and letters as the usual ones; the many minus and micro signs as one. */
function plainText(text: string): string {
  return text
    .replace(/[\uff01-\uff5e]/g, (char) => String.fromCharCode(char.charCodeAt(0) - 0xfee0))
    .replace(/[\u2212\u2013\u2012\ufe63]/g, '-')
    .replace(/[\u00a0\u202f\u2009\u3000]/g, ' ')
    .replace(/[\u00b5\u03bc]/g, 'u')
    .replace(/\u2126/g, 'Ω')
    .trim();
}

/**
 * The unit as it is written in the tables: the letter before a base keeps its case where both have
 * a meaning (`MΩ` is not `mΩ`), all else may be written large or small.
 */
function unitOf(typed: string, quantity: TypedQuantity): number | undefined {
  const factors = FACTORS[quantity];
  const ohm = typed.replace(/ohms?$/i, 'Ω').replace(/ω$/, 'Ω');
  if (factors[ohm] !== undefined) return factors[ohm];
  for (const [unit, factor] of Object.entries(factors)) {
    if (unit.toLowerCase() !== ohm.toLowerCase()) continue;
    // Large M before a base is mega, which nothing here is measured in.
    if (/^M./.test(ohm) && unit.startsWith('m') && unit.length === ohm.length && unit !== 'min')
      return undefined;
    return factor;
  }
  return undefined;
}

/** Three digits behind a point or comma may be thousands: of these quantities whole ones are usual. */
const GROUPED = /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/;
const WHOLE_UNITS = new Set(['mah', 'mv', 'ma', 'uω', 'ω', 'ohm', 'mg', 'um']);
/** Quantities of which that holds without a unit, too. */
const WHOLE_QUANTITIES = new Set<TypedQuantity>(['money', 'count']);

/** A voltage without a unit nothing here has: a meter that shows mV was read. */
const MAY_BE_MILLIVOLTS = /^[1-9]\d{3,4}$/;

/** Digits with groups of three, and one decimal mark that is not the one between groups. */
const THOUSANDS = [
  /^([+-]?\d{1,3}(?:,\d{3})+)\.(\d*)$/,
  /^([+-]?\d{1,3}(?:\.\d{3})+),(\d*)$/,
  /^([+-]?\d{1,3}(?:,\d{3}){2,})()$/,
  /^([+-]?\d{1,3}(?:\.\d{3}){2,})()$/,
  /^([+-]?\d{1,3}(?:[ '’]\d{3})+)(?:[.,](\d*))?$/,
];

/** A number whose thousands are plain to see, without them; others as they are. */
function withoutThousands(number: string): string {
  for (const pattern of THOUSANDS) {
    const match = pattern.exec(number);
    if (match) return `${match[1]!.replace(/[.,'’ ]/g, '')}${match[2] ? `.${match[2]}` : ''}`;
  }
  return number;
}

const TYPED =
  /^([+-]?(?:\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d*)?|\d+(?:[.,]\d+)*[.,]?|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s.,'’][^\s]*)?$/i;
const ONE_NUMBER = /^[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?$/i;

/**
 * Reads what a person typed: a decimal comma is a point, thousands that are plain to see are taken
 * as such, a unit after the number is converted (`3120 mAh` is 3.12 Ah, `0.0042 ohm` is 4.2 mΩ,
 * `420 µΩ` is 0.42 mΩ). `3.120 mAh`, or an amount of `12,345`, may have been meant as thousands;
 * that is said, to be asked about.
 * @example parseQuantity('0,0042 ohm', 'resistanceMohm').value // 4.2
 */
export function parseQuantity(text: string, quantity: TypedQuantity): ParsedQuantity {
  const refusal = (): ParsedQuantity => ({
    ok: false,
    message: `Expected ${EXPECTED[quantity]}; found “${text.trim().slice(0, 30)}”.`,
  });
  if (text.length > LONGEST) return refusal();
  const match = TYPED.exec(plainText(text));
  if (!match?.[1]) return refusal();
  const number = withoutThousands(match[1]);
  if (!ONE_NUMBER.test(number)) return refusal();
  const unit = match[2] ?? null;
  const factor = unit === null ? 1 : unitOf(unit, quantity);
  const value = Number(number.replace(',', '.'));
  if (factor === undefined || !Number.isFinite(value)) return refusal();
  const mayBeGrouped =
    GROUPED.test(number) &&
    (WHOLE_QUANTITIES.has(quantity) || (unit !== null && WHOLE_UNITS.has(unit.toLowerCase())));
  if (quantity === 'count' && !Number.isInteger(value) && !mayBeGrouped) return refusal();
  // Rounding to what was typed; never a zero with a sign.
  const stored = Number((value * factor).toPrecision(15)) + 0;
  const parsed = {
    ok: true as const,
    value: stored,
    decimals: digitsMeant(number, factor, stored),
    unitTyped: unit?.toLowerCase() ?? null,
  };
  if (quantity === 'voltageV' && unit === null && MAY_BE_MILLIVOLTS.test(number))
    return {
      ...parsed,
      doubt: `${number}: ${number} mV, which is ${value / 1000} V, or ${number} V?`,
      otherwise: value / 1000,
    };
  if (!mayBeGrouped) return parsed;
  const meant = number.replace(/[.,]/, '');
  const shown = unit === null ? '' : ` ${unit}`;
  return {
    ...parsed,
    doubt: `${number}${shown}: ${number.replace(',', '.')}${shown}, or ${meant}${shown}?`,
    otherwise: Number((Number(meant) * factor).toPrecision(15)),
  };
}

/** Most digits after a point that are kept. */
const MOST_DECIMALS = 9;

/** Digits after the point of a number as typed, carried to the stored unit: `5.0 mV` is four of a volt. */
function digitsMeant(number: string, factor: number, stored: number): number {
  const [, typed = '', exponent = '0'] =
    /[.,]?(?:(?<=[.,])(\d*))?(?:e([+-]?\d+))?$/i.exec(number) ?? [];
  const shift = -Math.log10(factor);
  const isDecade = Math.abs(shift - Math.round(shift)) < 1e-9;
  const decimals = isDecade
    ? typed.length - Number(exponent) + Math.round(shift)
    : (/\.(\d+)$/.exec(String(stored))?.[1]?.length ?? 0);
  return Math.min(MOST_DECIMALS, Math.max(0, decimals));
}

/** As `parseQuantity`, where nobody can be asked: what may have been meant otherwise is refused. */
export function parseClearQuantity(text: string, quantity: TypedQuantity): ParsedQuantity {
  const parsed = parseQuantity(text, quantity);
  return parsed.ok && parsed.doubt
    ? {
        ok: false,
        message: `${parsed.doubt} ${MAY_BE_MILLIVOLTS.test(text.trim()) ? 'Write it with its unit' : `Write it without the point or comma${STORED_UNIT[quantity] ? `, or in ${STORED_UNIT[quantity]}` : ''}`}.`,
      }
    : parsed;
}
