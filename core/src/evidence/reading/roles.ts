import { type ColumnUnit, type Dimension, splitHeader } from './units-of-columns';

/** What a column of a log holds. */
export type Role =
  | 'time'
  | 'date'
  | 'voltage'
  | 'current'
  | 'temperature'
  | 'counterAh'
  | 'counterWh'
  | 'power'
  | 'mode'
  | 'step'
  | 'cellVoltage'
  | 'ignored';

/** A column of a log with its role and its way to the stored unit. */
export interface Column {
  index: number;
  header: string;
  role: Role;
  /** Factor and offset to the stored unit; null for text columns and bare numbers. */
  unit: ColumnUnit | null;
}

interface Candidate extends Column {
  name: string;
  words: string[];
}

const ROLE_OF_DIMENSION: Partial<Record<Dimension, Role>> = {
  time: 'time',
  voltage: 'voltage',
  current: 'current',
  temperature: 'temperature',
  charge: 'counterAh',
  energy: 'counterWh',
  power: 'power',
};

/** Words for a quantity when no unit tells it, in the tongues loggers are set to. */
const WORDS: [Role, RegExp][] = [
  [
    'step',
    /^(step|step ?(no|number|index|id)|schritt|cycle|cycle ?(no|number|index)|ns|étape|etape|paso|passo|stap)$/,
  ],
  [
    'mode',
    /^(mode|phase|state|status|step ?(type|name)|work ?mode|type|modus|zustand|betriebsart|modo|estado|état|etat|stato|toestand)$/,
  ],
  ['date', /^(date|datum|day|fecha|data|jour|giorno)$/],
  [
    'time',
    /^(time|t|zeit|temps|tiempo|tempo|tijd|uhrzeit|messzeit|testzeit|laufzeit|zeitstempel|zeitpunkt|datum ?(und ?)?(uhr)?zeit|heure|horodatage|date ?(et ?)?heure|hora|fecha ?(y ?)?hora|marca ?de ?tiempo|ora|data ?(e ?)?ora|tijdstip|tijdstempel|dauer|durée|duree|elapsed|timestamp|datetime|date ?time|time ?stamp|clock|uptime|(test|total|elapsed|record|run|absolute|relative|real|system) ?time|unix( ?time)?|epoch( ?time)?)$/,
  ],
  [
    'temperature',
    /^(temp|temperature|temperatur|température|temperatura|temperatuur|zelltemperatur|celtemperatuur|t ?\d+|t ?(cell|surface|can)|(cell|surface|can|battery) ?temp(erature)?)$/,
  ],
  [
    'counterAh',
    /^(capacity|charge ?(counter|count)|q|kapazität|kapazitaet|ladung|ladungsmenge|entladekapazität|capacité|capacite|capacidad|capacità|capacita|capaciteit|lading|(discharge|charge|total|cell) ?capacity|q ?(dis|discharge|chg|charge))$/,
  ],
  ['counterWh', /^(energy|energie|énergie|energía|energia|(discharge|charge|total) ?energy)$/],
  ['power', /^(power|p|leistung|puissance|potencia|potenza|vermogen)$/],
  [
    'voltage',
    /^(voltage|u|v|e|ecell|spannung|zellspannung|klemmenspannung|tension|tensión|tensione|voltaje|spanning|celspanning|potential|(cell|terminal|battery|pack|measured|output|total|sense) ?(voltage|v|u))$/,
  ],
  [
    'current',
    /^(current|i|strom|stromstärke|entladestrom|courant|corriente|corrente|stroom|intensité|intensite|intensidad|(cell|battery|pack|load|measured|output|discharge) ?(current|i))$/,
  ],
];

/** Words that make a column a setting or a side figure rather than the reading. */
const SIDE =
  /\b(set|setpoint|limit|target|max|min|ref|reference|cut-?off|avg|average|mean|step|ambient|room|chamber|supply|delta|d|input)\b/;

function wordsOf(name: string): string[] {
  return name
    .replace(/([a-zäöüé])([A-Z])/g, '$1 $2')
    .replace(/[_\-.:#/]+/g, ' ')
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean);
}

function roleByName(name: string, words: string[]): Role {
  if (name === 'T') return 'temperature';
  const text = words.join(' ');
  return WORDS.find(([, pattern]) => pattern.test(text))?.[0] ?? 'ignored';
}

function candidateOf(header: string, unitCell: string | undefined, index: number): Candidate {
  const own = splitHeader(header);
  const below = unitCell?.trim() ? splitHeader(`(${unitCell.trim()})`).unit : null;
  const unit = own.unit ?? below;
  const words = wordsOf(own.name);
  const named = roleByName(own.name, words);
  const byUnit = unit ? (ROLE_OF_DIMENSION[unit.dimension] ?? 'ignored') : null;
  const textual = named === 'mode' || named === 'step';
  return { index, header, name: own.name, words, unit, role: textual ? named : (byUnit ?? named) };
}

/** Cell voltages of a string: at least two voltage columns that differ only in a number. */
function markCellVoltages(candidates: Candidate[]): void {
  const groups = new Map<string, Candidate[]>();
  for (const candidate of candidates) {
    const numbered = /^(.*?)(\d+)\D*$/.exec(candidate.name);
    const stem = numbered?.[1]?.toLowerCase().replace(/[^a-z]/g, '');
    const isVoltage =
      candidate.role === 'voltage' ||
      (candidate.unit === null &&
        stem !== undefined &&
        /^(v|u|cell|vcell|ucell|cellv|cellvoltage|voltage|vc)$/.test(stem));
    if (!numbered || stem === undefined || !isVoltage || SIDE.test(candidate.words.join(' ')))
      continue;
    groups.set(stem, [...(groups.get(stem) ?? []), candidate]);
  }
  const largest = [...groups.values()].sort((a, b) => b.length - a.length)[0];
  if (!largest || largest.length < 2) return;
  for (const candidate of largest) candidate.role = 'cellVoltage';
}

/** Among several columns of one role the best stays, the others are ignored. */
function keepBest(candidates: Candidate[], role: Role, worth: (c: Candidate) => number): void {
  const contenders = candidates.filter((candidate) => candidate.role === role);
  contenders.sort((a, b) => worth(b) - worth(a) || a.index - b.index);
  for (const loser of contenders.slice(1)) loser.role = 'ignored';
}

const plainness = (candidate: Candidate): number =>
  (SIDE.test(candidate.words.join(' ')) ? -10 : 0) +
  (/\b(cell|terminal|surface|pack|battery|measured|sense|can)\b/.test(candidate.words.join(' '))
    ? 2
    : 0) +
  (candidate.unit ? 1 : 0);

/**
 * Gives each column of a header its role by meaning: unit first, then name.
 * @param units the cells of a units row below the header, when there is one.
 */
export function recogniseColumns(header: string[], units: string[] | null): Column[] {
  const candidates = header.map((cell, index) => candidateOf(cell, units?.[index], index));
  markCellVoltages(candidates);
  keepBest(
    candidates,
    'time',
    (c) => plainness(c) + (/\b(total|test|elapsed|unix|epoch)\b/.test(c.words.join(' ')) ? 3 : 0),
  );
  keepBest(candidates, 'voltage', plainness);
  keepBest(candidates, 'current', plainness);
  keepBest(candidates, 'temperature', plainness);
  const direction = (c: Candidate) =>
    /\b(discharge|dis|dchg)\b/.test(c.words.join(' '))
      ? 2
      : /\b(charge|chg)\b/.test(c.words.join(' '))
        ? -2
        : 0;
  keepBest(candidates, 'counterAh', (c) => plainness(c) + direction(c));
  keepBest(candidates, 'counterWh', (c) => plainness(c) + direction(c));
  for (const role of ['power', 'mode', 'step', 'date'] as const)
    keepBest(candidates, role, plainness);
  return candidates.map(({ index, header: cell, role, unit }) => ({
    index,
    header: cell.trim(),
    role,
    unit,
  }));
}
