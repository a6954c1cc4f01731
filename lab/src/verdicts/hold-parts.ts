import { z } from 'zod';
import { LabError } from '../shared';

/** Why a person does it: a few words that stay. */
export const reason = z
  .string()
  .trim()
  .min(3, 'Expected a reason, in a few words.')
  .max(400, 'Expected at most 400 characters.');

/** @throws LabError always: somebody else was first. */
export const clash = (): never => {
  throw new LabError(
    'conflict',
    'Somebody changed this hold in the meantime. Nothing was changed; look at it again.',
  );
};
