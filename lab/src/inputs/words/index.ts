/** Names of fields whose own name does not say what a person sees. */
const NAMES: Readonly<Record<string, string>> = {
  ah: 'charge',
  ambientC: 'temperature of the room',
  attendedDays: 'days somebody is there',
  attendedFromMin: 'start of attended hours',
  attendedToMin: 'end of attended hours',
  cellId: 'cell',
  cellIds: 'cells',
  celsius: 'temperature',
  channelId: 'channel',
  clientKey: 'key of the request',
  clocksApart: 'clocks apart',
  countsApart: 'counter and integral apart',
  cursors: 'places in the records',
  disagrees: 'apart from the cell’s other results',
  disagreesEn: 'Eₙ above',
  dueOn: 'due date',
  email: 'e-mail address',
  fromSoc: 'state of charge at the start',
  fullAt: 'time it was full',
  gainPct: 'gain',
  instrumentId: 'instrument',
  lotId: 'lot',
  modelId: 'cell model',
  orderedOn: 'day of the order',
  arrivedOn: 'day of arrival',
  calibratedOn: 'day of calibration',
  outOfNothing: 'discharge over what was put in',
  pct: 'state of charge',
  personId: 'person',
  recipeId: 'recipe',
  runId: 'run',
  supplierName: 'supplier',
  title: 'short name',
  understated: 'capacity over the rated',
  wh: 'energy',
};

/** Units at the end of a name, as they are written. */
const UNITS: readonly [RegExp, string][] = [
  [/Mohm$/, 'mΩ'],
  [/Ohm$/, 'Ω'],
  [/Pct$/, '%'],
  [/PerL$/, 'Wh/L'],
  [/PerKg$/, 'Wh/kg'],
  [/Nm$/, 'N·m'],
  [/Mm2$/, 'mm²'],
  [/Mm$/, 'mm'],
  [/Ah$/, 'Ah'],
  [/Wh$/, 'Wh'],
  [/It$/, 'It'],
  [/(?<=[a-z])A$/, 'A'],
  [/(?<=[a-z])V$/, 'V'],
  [/(?<=[a-z])W$/, 'W'],
  [/(?<=[a-z])C$/, '°C'],
  [/(?<=[a-z])G$/, 'g'],
  [/(?<=[a-z])S$/, 's'],
  [/(?<=[a-z])M$/, 'm'],
  [/(?<=[a-z])H$/, 'h'],
  [/(?<=[a-z])K$/, 'K'],
];

/** A field’s name as a person reads it: `maxDischargeA` is *max discharge / A*. */
export function nameWords(name: string): string {
  const known = NAMES[name];
  if (known !== undefined) return known;
  const unit = UNITS.find(([pattern]) => pattern.test(name));
  const bare = unit ? name.replace(unit[0], '') : name;
  const words = bare
    .replace(/Ids?$/, '')
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .toLowerCase();
  return unit ? `${words} / ${unit[1]}` : words;
}
