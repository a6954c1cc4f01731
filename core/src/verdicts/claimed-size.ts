/** Millimetres in each unit a size is written in. */
const UNIT_MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  inch: 25.4,
  inches: 25.4,
  zoll: 25.4,
  '"': 25.4,
  '″': 25.4,
};
const UNIT = '(mm|cm|inches|inch|in|zoll|m|"|″)?';
const NUMBER = '(\\d+(?:[.,]\\d+)?)';
/** A tolerance behind a measure is none of its own. */
const TOLERANCE = '(?:\\s*(?:±|\\+/?-)\\s*\\d+(?:[.,]\\d+)?\\s*(?:mm|cm|in|inch|%)?)?';
const MEASURE = `${NUMBER}\\s*${UNIT}${TOLERANCE}`;
const BY = '\\s*(?:[x×*]|by|mal)\\s*';

const NAMED = [
  new RegExp(
    `(?:thickness|thick|dicke|stärke|épaisseur|espesor|spessore|dikte|diameter|durchmesser|diamètre|diámetro|diametro|dia\\.?|ø|⌀)\\s*(?:is|of|[:=])?\\s*${MEASURE}`,
    'i',
  ),
  new RegExp(`${MEASURE}\\s*(?:thick|dick|in diameter|diameter|dia\\b|ø)`, 'i'),
  new RegExp(`(?:^|[\\s,;(])[td]\\s*[:=]\\s*${MEASURE}`, 'i'),
];
const THREE = new RegExp(`${MEASURE}${BY}${MEASURE}${BY}${MEASURE}`, 'i');
const TWO = new RegExp(`${MEASURE}${BY}${MEASURE}`, 'i');
/** Letters in front of the measures say which is which: `L148 × W92 × T27`. */
const LETTERED = new RegExp(`\\b[lwhbtd]\\s*[:=]?\\s*${MEASURE}`, 'gi');

const millimetres = (text: string, unit: string | undefined, other: string | undefined): number =>
  Number(text.replace(',', '.')) * (UNIT_MM[(unit ?? other ?? 'mm').toLowerCase()] ?? 1);

/** Words, letters and signs that say that a measure is a diameter. */
const ROUND = /diam|durchmesser|diám|diàm|\bdia\b|dia\.|ø|⌀|\bd\s*[:=]/i;

/** The dimension of a size that is judged. */
export interface JudgedDimension {
  name: 'thickness' | 'diameter';
  mm: number;
}

/**
 * Thickness, or the diameter of a can, that a size in words names (handbook, chapter 5): by its
 * name where there is one; of three measures the thin one of length × width × thickness; of two the
 * first, diameter × height. Tolerances, threads and other numbers of the text are none.
 * @returns null where none is understood.
 * @example dimensionOf('Ø 18 × 65 mm')?.name // 'diameter'
 */
export function dimensionOf(size: string): JudgedDimension | null {
  const text = size.replaceAll('\u00a0', ' ');
  const named = (mm: number, words: string): JudgedDimension => ({
    name: ROUND.test(words) ? 'diameter' : 'thickness',
    mm,
  });
  for (const pattern of NAMED) {
    const found = pattern.exec(text);
    if (found) return named(millimetres(found[1]!, found[2], undefined), found[0]);
  }
  const lettered = [...text.matchAll(LETTERED)].filter(([whole]) => /^[td]/i.test(whole));
  if (lettered.length === 1)
    return {
      name: /^d/i.test(lettered[0]![0]) ? 'diameter' : 'thickness',
      mm: millimetres(lettered[0]![1]!, lettered[0]![2], undefined),
    };
  const three = THREE.exec(text);
  if (three) {
    // One unit at the end holds for all.
    const last = three[6] ?? three[4] ?? three[2];
    const measures = [1, 3, 5].map((i) => millimetres(three[i]!, three[i + 1], last));
    return { name: 'thickness', mm: Math.min(...measures) };
  }
  const two = TWO.exec(text);
  return two ? { name: 'diameter', mm: millimetres(two[1]!, two[2], two[4] ?? two[2]) } : null;
}

/**
 * The same, mm alone.
 * @returns null where none is understood.
 * @example thicknessOf('148 x 92 x 27 mm ± 0.5') // 27
 */
export const thicknessOf = (size: string): number | null => dimensionOf(size)?.mm ?? null;
