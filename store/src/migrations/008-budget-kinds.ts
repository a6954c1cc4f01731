import { type QueryInterface, QueryTypes } from 'sequelize';

/** Kinds by the names components had; a name may say besides where the component acts. */
const KINDS: Record<string, string> = {
  'current gain': 'currentGain',
  'current offset': 'currentOffset',
  current: 'current',
  'time base': 'timeBase',
  'load-on instant': 'loadOn',
  pause: 'pause',
  'cut-off voltage': 'cutoffVoltage',
  'end between samples': 'endBetweenSamples',
  'bend at the cut-off': 'bendAtCutoff',
  'voltage noise': 'voltageNoise',
  'lead resistance': 'leadResistance',
  'counter resolution': 'counterResolution',
  'counter interval': 'counterInterval',
  'hole counted': 'holeCounted',
  'hole bridged': 'holeBridged',
  repeatability: 'repeatability',
  temperature: 'temperature',
  rate: 'rate',
  'missing rest': 'missingRest',
  'channel bias': 'channelBias',
  voltage: 'voltage',
  'voltage gain': 'voltageGain',
  'voltage scatter': 'voltageScatter',
  'voltage resolution': 'voltageResolution',
  voltmeters: 'voltmeters',
  'scatter of the spots': 'spotScatter',
  'spread of the model': 'modelSpread',
  'DC energy': 'dcEnergy',
  'AC energy': 'acEnergy',
  gain: 'gain',
  offset: 'offset',
  resolution: 'resolution',
  'probe contact': 'probeContact',
};

/** Figures rewritten in one statement. */
const AT_ONCE = 500;

/**
 * A stored figure whose components all say what kind they are; null where they do already.
 * @throws Error on a name no version of the program has written.
 */
export function withKinds(detail: string): string | null {
  const figure = JSON.parse(detail) as { budget?: { name: string; kind?: string }[] };
  if (!figure.budget?.some((part) => part.kind === undefined)) return null;
  const budget = figure.budget.map((part) => {
    const kind = part.kind ?? KINDS[part.name.split(', ')[0]!];
    if (!kind) throw new Error(`Expected a known component of a budget, found “${part.name}”.`);
    return { kind, ...part };
  });
  return JSON.stringify({ ...figure, budget });
}

/** Components of stored budgets say what kind they are. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const { sequelize } = queryInterface;
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(
      'CREATE TEMPORARY TABLE figures_with_kinds (id BIGINT UNSIGNED PRIMARY KEY, detail LONGTEXT NOT NULL)',
      { type: QueryTypes.RAW, transaction },
    );
    for (let last = 0; ;) {
      const rows = await sequelize.query<{ id: number; detail: string }>(
        `SELECT id, CONCAT(detail, '') AS detail FROM figures WHERE id > :last ORDER BY id LIMIT ${AT_ONCE}`,
        { type: QueryTypes.SELECT, replacements: { last }, transaction },
      );
      if (rows.length === 0) break;
      last = Number(rows.at(-1)!.id);
      const changed = rows.flatMap(({ id, detail }) => {
        const now = withKinds(detail);
        return now === null ? [] : [[id, now]];
      });
      if (changed.length > 0)
        await sequelize.query('INSERT INTO figures_with_kinds (id, detail) VALUES :changed', {
          type: QueryTypes.INSERT,
          replacements: { changed },
          transaction,
        });
    }
    await sequelize.query(
      'UPDATE figures f JOIN figures_with_kinds k ON k.id = f.id SET f.detail = k.detail',
      { type: QueryTypes.UPDATE, transaction },
    );
    await sequelize.query('DROP TEMPORARY TABLE figures_with_kinds', {
      type: QueryTypes.RAW,
      transaction,
    });
    // Where cells stand says its corrections by kind, too: made new at the next start.
    await sequelize.query("UPDATE standings SET inputHash = ''", {
      type: QueryTypes.UPDATE,
      transaction,
    });
  });
}
