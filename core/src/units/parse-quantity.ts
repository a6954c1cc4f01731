/** What may be typed into a field, and the unit it is stored in. */
export type TypedQuantity =
  | 'capacityAh'
  | 'resistanceMohm'
  | 'voltageV'
  | 'massG'
  | 'currentA'
  | 'lengthMm'
  | 'energyWh'
  | 'durationH';

/** A typed quantity as understood, or what was expected. */
export type ParsedQuantity =
  | {
      ok: true;
      value: number;
      unitTyped: string | null;
      /** Other value that may have been meant, asked about before it is kept; absent where clear. */
      doubt?: string;
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

/**
 * Reads what a person typed: a decimal comma is a point, a unit after the number is converted
 * (`3120 mAh` is 3.12 Ah, `0.0042 ohm` is 4.2 mΩ, `420 µΩ` is 0.42 mΩ). `3.120 mAh` may have been
 * meant as thousands; that is said, to be asked about.
 */
export function parseQuantity(text: string, quantity: TypedQuantity): ParsedQuantity {
  const refusal = (): ParsedQuantity => ({
    ok: false,
    message: `Expected ${EXPECTED[quantity]}; found “${text.trim().slice(0, 30)}”.`,
  });
  if (text.length > LONGEST) return refusal();
  const match = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s.,][^\s]*)?$/i.exec(
    plainText(text),
  );
  if (!match?.[1]) return refusal();
  const number = match[1];
  const unit = match[2] ?? null;
  const factor = unit === null ? 1 : unitOf(unit, quantity);
  const value = Number(number.replace(',', '.'));
  if (factor === undefined || !Number.isFinite(value)) return refusal();
  // Rounding to what was typed; never a zero with a sign.
  const stored = Number((value * factor).toPrecision(15)) + 0;
  const parsed = { ok: true as const, value: stored, unitTyped: unit?.toLowerCase() ?? null };
  if (unit === null || !GROUPED.test(number) || !WHOLE_UNITS.has(unit.toLowerCase())) return parsed;
  const meant = number.replace(/[.,]/, '');
  return {
    ...parsed,
    doubt: `${number} ${unit}: ${number.replace(',', '.')} ${unit}, or ${meant} ${unit}?`,
  };
}

/** As `parseQuantity`, where nobody can be asked: what may have been meant otherwise is refused. */
export function parseClearQuantity(text: string, quantity: TypedQuantity): ParsedQuantity {
  const parsed = parseQuantity(text, quantity);
  return parsed.ok && parsed.doubt
    ? {
        ok: false,
        message: `${parsed.doubt} Write it without the point or comma, or in ${EXPECTED[quantity].split(' ')[3]!.replace(',', '')}.`,
      }
    : parsed;
}
