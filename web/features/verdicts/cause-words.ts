import type { ChangeKind } from '@dusk-tally/lab';
import type { LotMove } from '@dusk-tally/lab/verdicts';

/** What a changed rule is called; all other changes are results of cells. */
const RULES: Partial<Record<ChangeKind, string>> = {
  guardFactor: 'the lab’s guard factor',
  room: 'how cold and warm the lab’s room is kept',
  holdLimits: 'the limits from which results are held',
  cellModel: 'the data sheet of a cell model',
  chemistryProfile: 'the profile of a chemistry',
  channelCalibration: 'a channel’s calibration or voltage table',
  channelLooks: 'a look at a channel',
  controlCells: 'which cells are control cells',
  codeRules: 'how codes are read',
  arrivalRules: 'the rules of arrival',
};

/** Why a lot’s figures moved without an act on it, as a sentence. */
export function causeWords({ causes, fromLots }: Pick<LotMove, 'causes' | 'fromLots'>): string {
  const rules = causes.flatMap((kind) => RULES[kind] ?? []);
  if (rules.length > 0) return `Changed: ${rules.join(', ')}.`;
  const whose = fromLots.length > 0 ? `Results of ${fromLots.join(', ')}` : 'Results of other lots';
  return `${whose} changed what is known of the channels they share.`;
}
