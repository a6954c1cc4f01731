import { z } from 'zod';
import { dayOrNone } from './day';
import { reasonInput } from './people';

const voltageTable = z
  .array(z.object({ shown: z.number().finite(), reference: z.number().finite() }))
  .max(50)
  .default([])
  .refine((points) => new Set(points.map((point) => point.shown)).size === points.length, {
    message: 'Expected each shown voltage once.',
  });

const fields = {
  name: z.string().trim().min(1, 'Expected a name.').max(40),
  calibratedOn: dayOrNone,
  dueOn: dayOrNone,
  voltageTable,
};

/** A further channel of a tester. */
export const channelInput = z.object({ instrumentId: z.int(), ...fields });

/** A channel’s calibration: dates, and what a reference meter said of its voltages. */
export const channelChange = z.object({
  id: z.int(),
  version: z.int(),
  ...fields,
  /** From this day on; runs of earlier days keep what held then. Today where it is open. */
  holdsFrom: dayOrNone,
  reason: reasonInput,
});
