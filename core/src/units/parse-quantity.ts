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

export type ParsedQuantity =
  { ok: true; value: number; unitTyped: string | null } | { ok: false; message: string };

/** Factor from a typed unit to the stored unit, per quantity. Keys are lower case. */
const FACTORS: Record<TypedQuantity, Record<string, number>> = {
  capacityAh: { ah: 1, mah: 1e-3, as: 1 / 3600, c: 1 / 3600 },
  resistanceMohm: { mohm: 1, mω: 1, ohm: 1e3, ω: 1e3, uohm: 1e-3, µohm: 1e-3, µω: 1e-3, kohm: 1e6 },
  voltageV: { v: 1, mv: 1e-3, kv: 1e3 },
  massG: { g: 1, kg: 1e3, mg: 1e-3 },
  currentA: { a: 1, ma: 1e-3 },
  durationH: { h: 1, min: 1 / 60, s: 1 / 3600 },
  energyWh: { wh: 1, kwh: 1e3, mwh: 1e-3, j: 1 / 3600, kj: 1 / 3.6 },
  lengthMm: { mm: 1, cm: 10, m: 1e3, µm: 1e-3, um: 1e-3 },
};

const EXPECTED: Record<TypedQuantity, string> = {
  capacityAh: 'a number in Ah, or with mAh',
  resistanceMohm: 'a number in mΩ, or with ohm or uohm',
  voltageV: 'a number in V, or with mV',
  massG: 'a number in g, or with kg',
  currentA: 'a number in A, or with mA',
  durationH: 'a number in h, or with min',
  energyWh: 'a number in Wh, or with kWh',
  lengthMm: 'a number in mm, or with cm',
};

/**
 * Reads what a person typed: a decimal comma is a point, a unit after the number is
 * converted (`3120 mAh` is 3.12 Ah, `0.0042 ohm` is 4.2 mΩ).
 */
export function parseQuantity(text: string, quantity: TypedQuantity): ParsedQuantity {
  const trimmed = text
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00a0\u202f]/g, ' ');
  const match = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s.,][^\s]*)?$/i.exec(
    trimmed,
  );
  const refusal = (): ParsedQuantity => ({
    ok: false,
    message: `Expected ${EXPECTED[quantity]}; found “${text.trim().slice(0, 30)}”.`,
  });
  if (!match?.[1]) return refusal();
  const value = Number(match[1].replace(',', '.'));
  const unit = match[2]?.toLowerCase().replaceAll('μ', 'µ').replaceAll('ω', 'ω') ?? null;
  const factor = unit === null ? 1 : FACTORS[quantity][unit];
  if (factor === undefined || !Number.isFinite(value)) return refusal();
  return { ok: true, value: Number((value * factor).toPrecision(15)), unitTyped: unit };
}
