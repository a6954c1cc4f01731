/** Settings of the lab by name, as shown. */
export const SETTING_NAMES = {
  labName: 'Name of the lab',
  place: 'Place and address',
  currency: 'Currency',
  timeZone: 'Time zone',
  guardFactor: 'Guard factor g',
  roomLowC: 'Room, coldest / °C',
  roomHighC: 'Room, warmest / °C',
  cellPrefix: 'Letters before cell numbers',
  language: 'Language of reports',
} as const;

export type SettingName = keyof typeof SETTING_NAMES;

const ofLots = (lots: number): string => (lots === 1 ? 'The one lot is' : `All ${lots} lots are`);

const roomSays = (lots: number): string =>
  `${ofLots(lots)} judged anew at once: where nobody recorded a temperature, it is taken to lie in this range. Where no range is kept, ± 6 K of the claim’s.`;

/** A setting as it is kept, and as it was typed. */
export interface SettingChange {
  before: unknown;
  after: unknown;
}

/** What another guard factor does; a narrower band decides more, and wrongly more often. */
function guardSays({ before, after }: SettingChange): string {
  const [from, to] = [Number(before), Number(String(after).replace(',', '.'))];
  if (to > from) return 'with a wider guard band more results are too close to call';
  if (to < from)
    return `with ${to === 0 ? 'no guard band' : 'a narrower guard band'} fewer results are too close to call, and more of the others are wrong`;
  return 'which results are too close to call is made new';
}

/** What a change of each does, said before it is kept. */
export const SETTING_SAYS: Record<SettingName, (lots: number, change?: SettingChange) => string> = {
  labName: () => 'Reports issued from now on carry the new name; issued ones keep theirs.',
  place: () => 'Reports issued from now on carry the new place; issued ones keep theirs.',
  currency: () => 'Lots taken in from now on are paid in it; earlier ones keep their currency.',
  timeZone: () =>
    'All days and times are shown in it, and the hours somebody is there are counted in it.',
  guardFactor: (lots, change = { before: null, after: null }) =>
    `${ofLots(lots)} judged anew at once: ${guardSays(change)}. Issued reports keep their verdicts.`,
  roomLowC: roomSays,
  roomHighC: roomSays,
  language: () =>
    'Reports issued from now on are written in it unless one says otherwise; issued ones stay.',
  cellPrefix: () => 'Cells numbered from now on begin with it; earlier numbers stay.',
};
