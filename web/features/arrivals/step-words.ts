/** Steps of receiving as shown, in the order of the work. */
export const STEP_NAMES = {
  box: 'Box',
  packs: 'Packs',
  codes: 'Codes',
  inspection: 'Inspection',
  readings: 'First readings',
  triage: 'Triage',
  sampling: 'Sampling',
} as const;
export type StepName = keyof typeof STEP_NAMES;
export const isStep = (text: string): text is StepName => Object.hasOwn(STEP_NAMES, text);
