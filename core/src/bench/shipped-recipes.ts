import type { Recipe, RecipeStep } from './recipe';

const HALF_IT = { in: 'It', value: 0.5 } as const;

const charge = (value: number): RecipeStep => ({
  kind: 'charge',
  current: { in: 'It', value },
  limitV: null,
  taperIt: 0.05,
  maxHours: null,
  limitAh: null,
});
const rest = (minutes: number): RecipeStep => ({ kind: 'rest', minutes });
const discharge = (rateIt: number | null): RecipeStep => ({
  kind: 'discharge',
  load: {
    by: 'current',
    current: rateIt === null ? { in: 'claimRate' } : { in: 'It', value: rateIt },
  },
  cutoffV: null,
  maxHours: null,
  limitAh: null,
});
const toStorage: RecipeStep = { kind: 'toStorage', current: HALF_IT };
const claimCheck: RecipeStep[] = [charge(0.5), rest(60), discharge(null), rest(30), toStorage];

/** The recipes that ship (handbook, chapter 2, "Recipes"). */
export const SHIPPED_RECIPES: readonly Recipe[] = [
  { name: 'Claim check', purpose: 'claimCheck', attendedOnly: false, steps: claimCheck },
  {
    name: 'Rate set',
    purpose: 'rateSet',
    attendedOnly: false,
    steps: [
      ...[0.2, 1, 2].flatMap((rate): RecipeStep[] => [
        charge(0.5),
        rest(60),
        { kind: 'measure', what: 'acResistance' },
        {
          kind: 'pulse',
          first: { in: 'It', value: 0.2 },
          firstS: 10,
          second: { in: 'It', value: 1 },
          secondS: 1,
        },
        discharge(rate),
        rest(30),
      ]),
      toStorage,
    ],
  },
  {
    name: 'Quick screen',
    purpose: 'quickScreen',
    attendedOnly: false,
    steps: [
      charge(0.5),
      rest(20),
      {
        kind: 'discharge',
        load: { by: 'current', current: HALF_IT },
        cutoffV: null,
        maxHours: 1 / 3,
        limitAh: null,
      },
      rest(5),
      toStorage,
    ],
  },
  {
    name: 'Slow charge acceptance',
    purpose: 'slowCharge',
    attendedOnly: true,
    steps: [
      {
        kind: 'charge',
        current: { in: 'claimMaximum' },
        limitV: null,
        taperIt: 0.05,
        maxHours: null,
        limitAh: null,
      },
      rest(60),
    ],
  },
  {
    name: 'Conditioning, then claim check',
    purpose: 'conditioning',
    attendedOnly: false,
    steps: [
      { kind: 'repeat', times: 3, steps: [charge(0.4), rest(30), discharge(0.4), rest(30)] },
      ...claimCheck,
    ],
  },
  {
    name: 'Reclaimed cell',
    purpose: 'reclaimed',
    attendedOnly: true,
    steps: [
      { kind: 'measure', what: 'temperature' },
      charge(0.2),
      { kind: 'measure', what: 'temperature' },
      rest(60),
      discharge(null),
      rest(30),
      { kind: 'toStorage', current: { in: 'It', value: 0.2 } },
    ],
  },
  {
    name: 'String under load',
    purpose: 'string',
    attendedOnly: true,
    steps: [
      { kind: 'measure', what: 'torque' },
      ...[0.3, 0.6].flatMap((rate): RecipeStep[] => [
        {
          kind: 'discharge',
          load: { by: 'current', current: { in: 'It', value: rate } },
          cutoffV: null,
          maxHours: 0.1,
          limitAh: null,
        },
        { kind: 'measure', what: 'temperature' },
      ]),
      rest(10),
    ],
  },
  {
    name: 'Capacity retention',
    purpose: 'retention',
    attendedOnly: false,
    steps: [charge(0.5), rest(28 * 24 * 60), discharge(null), rest(30), toStorage],
  },
];
