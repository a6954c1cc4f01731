/** A charge, a discharge and a pulse as a recipe writes them. */
export const half = { in: 'It', value: 0.5 } as const;
export const CHARGE = {
  kind: 'charge',
  current: half,
  limitV: null,
  taperIt: 0.05,
  maxHours: null,
  limitAh: null,
} as const;
export const DISCHARGE = {
  kind: 'discharge',
  load: { by: 'current', current: { in: 'claimRate' } },
  cutoffV: null,
  maxHours: null,
  limitAh: null,
} as const;
export const PULSE = {
  kind: 'pulse',
  first: { in: 'It', value: 0.2 },
  firstS: 10,
  second: { in: 'It', value: 1 },
  secondS: 1,
} as const;
