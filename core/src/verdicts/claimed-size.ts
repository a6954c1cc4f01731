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

/**
 * Thickness, or the diameter of a can, that a size in words names, mm (handbook, chapter 5): by its
 * name where there is one; of three measures the thin one of length × width × thickness; of two the
 * first, diameter × height. Tolerances, threads and other numbers of the text are none.
 * @returns null where none is understood.
 * @example thicknessOf('148 x 92 x 27 mm ± 0.5') // 27
 */
export function thicknessOf(size: string): number | null {
  const text = size.replaceAll('\u00a0', ' ');
  for (const pattern of NAMED) {
    const found = pattern.exec(text);
    if (found) return millimetres(found[1]!, found[2], undefined);
  }
  const lettered = [...text.matchAll(LETTERED)].filter(([whole]) => /^[td]/i.test(whole));
  if (lettered.length === 1) return millimetres(lettered[0]![1]!, lettered[0]![2], undefined);
  const three = THREE.exec(text);
  if (three) {
    // One unit at the end holds for all.
    const last = three[6] ?? three[4] ?? three[2];
    return Math.min(
      millimetres(three[1]!, three[2], last),
      millimetres(three[3]!, three[4], last),
      millimetres(three[5]!, three[6], last),
    );
  }
  const two = TWO.exec(text);
  return two ? millimetres(two[1]!, two[2], two[4] ?? two[2]) : null;
}
