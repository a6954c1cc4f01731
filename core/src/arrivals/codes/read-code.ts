import { type CodeReading, decodeGbt34014, normaliseCode } from './gbt-34014';
import type { CompiledTemplate } from './template';

/**
 * Reads a code by the first rule it fits: the lab's own templates, then GB/T 34014-2017.
 *
 * A refusal names the rule that came closest: a template whose shape fits but whose date does
 * not, else GB/T when the text is about that long, else that no rule knows it.
 */
export function readCode(
  text: string,
  templates: readonly CompiledTemplate[],
  context: { arrivedOn?: string | null } = {},
): CodeReading {
  let closest: CodeReading | null = null;
  for (const template of templates) {
    const reading = template.read(text, context);
    if (reading.ok) return reading;
    if (reading.reason !== 'shape') closest ??= reading;
  }
  const standard = decodeGbt34014(text, context);
  if (standard.ok || closest === null) {
    const code = normaliseCode(text);
    const meantAsStandard = code.length >= 20 && code.length <= 28;
    if (standard.ok || meantAsStandard || code === '') return standard;
    return {
      ok: false,
      code,
      reason: 'shape',
      message: `${code} fits no rule for codes; it is kept as a mark.`,
    };
  }
  return closest;
}
