import type { HoldLimits } from '@dusk-tally/core/verdicts';
import { changeHoldLimits, holdLimits } from '../src/verdicts';
import type { FreshLab } from './fresh-lab';

/** Other limits of holds, as a lead sets them. */
export async function setHoldLimits(
  { lab, admin }: Pick<FreshLab, 'lab' | 'admin'>,
  limits: Partial<HoldLimits>,
): Promise<void> {
  const now = await holdLimits(lab, admin, {});
  await changeHoldLimits(lab, admin, { ...now, ...limits, reason: 'looked at anew' });
}
