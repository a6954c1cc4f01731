import { z } from 'zod';
import { dayOrNone } from './day';
import { reasonInput } from './people';

const share = z.number().min(0, 'Expected 0 or more.').max(50);
const size = z.number().min(0, 'Expected 0 or more.').finite();
const common = {
  name: z.string().trim().min(1, 'Expected a name.').max(120),
  serial: z
    .string()
    .trim()
    .max(60)
    .nullish()
    .transform((value) => value || null),
  calibratedOn: dayOrNone,
  dueOn: dayOrNone,
};

const testerAccuracy = z
  .object({
    currentGainPct: share,
    currentOffsetA: size,
    voltageGainPct: share,
    voltageOffsetV: size,
    timePpm: size,
  })
  .superRefine((accuracy, context) => {
    const { currentGainPct, currentOffsetA, voltageGainPct, voltageOffsetV } = accuracy;
    const expect = (sum: number, path: string, what: string) =>
      sum > 0 ||
      context.addIssue({
        code: 'custom',
        path: [path],
        message: `Expected how far the ${what} may be off: a share, an amount or both.`,
      });
    expect(currentGainPct + currentOffsetA, 'currentGainPct', 'current');
    expect(voltageGainPct + voltageOffsetV, 'voltageGainPct', 'voltage');
  });
const meterAccuracy = z
  .object({ gainPct: share, offset: size })
  .refine(({ gainPct, offset }) => gainPct + offset > 0, {
    path: ['gainPct'],
    message: 'Expected how far it may be off: a share, an amount or both.',
  });

/** An instrument with what its data sheet or calibration states. */
export const instrumentInput = z.discriminatedUnion('kind', [
  z.object({
    ...common,
    kind: z.literal('tester'),
    accuracy: testerAccuracy,
  }),
  z.object({
    ...common,
    kind: z.enum(['acMeter', 'voltmeter', 'scale', 'caliper']),
    accuracy: meterAccuracy,
  }),
]);

/** What holds of an instrument from a day on; its kind never changes. */
export const instrumentChange = z.object({
  id: z.int(),
  version: z.int(),
  ...common,
  accuracy: z.union([testerAccuracy, meterAccuracy]),
  /** From this day on; runs of earlier days keep what held then. Today where it is open. */
  holdsFrom: dayOrNone,
  reason: reasonInput,
});
