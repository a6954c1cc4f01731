import { CLAIM_ITEMS, type ClaimKind } from '@dusk-tally/core/arrivals';
import { robustScores, type TwoHumps } from '@dusk-tally/core/statistics';
import {
  humpsOf,
  type ItemSummary,
  type LotOutlier,
  lotOutliers,
  normalScores,
  type Parting,
  partingOf,
  type PlacedValue,
  summariseItem,
  type SuspectValue,
} from '@dusk-tally/core/verdicts';
import type { AssessmentRow, CellArrivalRow, CellRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, question } from '../shared';
import { MEASURED, resultsOf } from './lot-verdict';

/** What could tell two humps apart, the likeliest first. */
const ATTRIBUTES = ['production date', 'pack', 'box', 'channel'] as const;

/** How a lot’s capacities are spread, beyond what its table says. */
export interface LotSpread {
  humps: TwoHumps | null;
  /** What tells the humps apart; null where nothing does. */
  parting: Parting | null;
  /** Every measured item of each part, in the order of its parts; empty where nothing parts the lot. */
  parts: PartItem[];
  outliers: LotOutlier[];
  scores: { value: number; score: number }[];
}

/** One claimed item of one part of a mixed lot. */
export interface PartItem {
  part: string;
  item: ClaimKind;
  words: string;
  unit: string;
  summary: ItemSummary;
}

const IN_STATISTICS = ['met', 'notMet', 'tooClose', 'described'] as const;

/** The day or the days a code can mean, as one word. */
const producedWords = ({ producedOn, producedUntil }: CellArrivalRow): string | null => {
  if (!producedOn || !producedUntil) return null;
  return producedOn === producedUntil ? producedOn : `${producedOn} to ${producedUntil}`;
};

/** Channel of the run each capacity came of; null for what was typed. */
async function channelsOf(
  lab: Lab,
  rows: readonly Pick<AssessmentRow, 'figureId' | 'cellId'>[],
): Promise<Map<number, { channel: string | null; isTyped: boolean }>> {
  const ids = rows.flatMap(({ figureId }) => figureId ?? []);
  const figures = await lab.store.figures.find({ id: ids }, { columns: ['id', 'runId'] });
  const runIds = figures.flatMap(({ runId }) => runId ?? []);
  const [runs, channels, instruments] = await Promise.all([
    lab.store.runs.find({ id: runIds }, { columns: ['id', 'channelId'] }),
    lab.store.meters.channels.find({}),
    lab.store.instruments.find({}, { columns: ['id', 'name'] }),
  ]);
  const nameOf = new Map(
    channels.map(({ id, name, instrumentId }) => [
      id,
      `${instruments.find((one) => one.id === instrumentId)?.name ?? ''}, ${name}`,
    ]),
  );
  const runOf = new Map(figures.map(({ id, runId }) => [id, runId]));
  const channelOf = new Map(runs.map(({ id, channelId }) => [id, channelId]));
  return new Map(
    rows.map(({ figureId, cellId }) => {
      const runId = runOf.get(figureId ?? -1) ?? null;
      const channelId = runId === null ? null : (channelOf.get(runId) ?? null);
      return [
        cellId,
        {
          isTyped: runId === null,
          channel: channelId === null ? null : (nameOf.get(channelId) ?? null),
        },
      ];
    }),
  );
}

/** Robust z of DC over AC resistance of each cell that has both. */
async function connectionZs(lab: Lab, lotId: number): Promise<Map<number, number>> {
  const figures = await lab.store.figures.find(
    { lotId, quantity: ['acResistance', 'dcResistance10s'] },
    { columns: ['id', 'cellId', 'quantity', 'value'], order: [['id', 'ASC']] },
  );
  const of = (quantity: string) =>
    new Map(
      figures
        .filter((figure) => figure.quantity === quantity)
        .map(({ cellId, value }) => [cellId, value]),
    );
  const [ac, dc] = [of('acResistance'), of('dcResistance10s')];
  const ratios = new Map(
    [...dc].flatMap(([cellId, value]) => {
      const own = ac.get(cellId);
      return own ? [[cellId, value / own] as const] : [];
    }),
  );
  const score = robustScores([...ratios.values()]);
  return new Map(
    [...ratios].flatMap(([cellId, ratio]) => {
      const z = score(ratio);
      return z === null ? [] : [[cellId, z] as const];
    }),
  );
}

function placed(
  cell: CellRow,
  value: number,
  more: { arrival: CellArrivalRow | undefined; channel: string | null; pack: string | null },
): PlacedValue {
  const told: [string, string | null][] = [
    ['production date', more.arrival ? producedWords(more.arrival) : null],
    ['pack', more.pack],
    ['box', cell.box],
    ['channel', more.channel],
  ];
  return {
    cell: cell.number,
    value,
    attributes: Object.fromEntries(told.flatMap(([name, text]) => (text ? [[name, text]] : []))),
  };
}

/** Every measured item of each part of a lot (handbook, chapter 5, “Mixed lot”). */
async function partItems(
  lab: Lab,
  lotId: number,
  parting: Parting | null,
  cells: readonly CellRow[],
): Promise<PartItem[]> {
  if (!parting) return [];
  const idOf = new Map(cells.map(({ id, number }) => [number, id]));
  const rows = await lab.store.verdicts.assessments.find({ lotId, item: [...MEASURED] });
  return parting.parts.flatMap((part) => {
    const ids = new Set(part.cells.map((number) => idOf.get(number)));
    return [...MEASURED].flatMap((item): PartItem[] => {
      const own = rows.filter((row) => row.item === item && ids.has(row.cellId));
      const [limited] = own.filter(({ low, high }) => low !== null || high !== null);
      const results = resultsOf(own, null);
      if (!limited || results.length === 0) return [];
      const { words, unit } = CLAIM_ITEMS[item];
      return [
        {
          part: part.of,
          item,
          words,
          unit: item === 'size' ? 'mm' : (unit ?? ''),
          summary: summariseItem(results, { low: limited.low, high: limited.high }),
        },
      ];
    });
  });
}

/** What parts a lot’s capacities, which cells stand out and who is suspected, and how normal they are. */
export const lotSpread = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotSpread> => {
    const { store } = lab;
    const rows = await store.verdicts.assessments.find({
      lotId,
      item: 'capacity',
      bound: 'exact',
      state: [...IN_STATISTICS],
    });
    const known = rows.filter(({ value }) => value !== null);
    const [cells, arrivals, packs, made, connections] = await Promise.all([
      store.cells.find({ lotId }, { order: [['position', 'ASC']] }),
      store.arrivals.cells.find({ lotId }),
      store.arrivals.packs.find({ lotId }, { columns: ['id', 'number'] }),
      channelsOf(lab, known),
      connectionZs(lab, lotId),
    ]);
    const arrivalOf = new Map(arrivals.map((row) => [row.cellId, row]));
    const packOf = new Map(packs.map(({ id, number }) => [id, number]));
    const valueOf = new Map(known.map(({ cellId, value }) => [cellId, value!]));
    const stood = cells.filter(({ id }) => valueOf.has(id));
    const values = stood.map((cell) =>
      placed(cell, valueOf.get(cell.id)!, {
        arrival: arrivalOf.get(cell.id),
        channel: made.get(cell.id)?.channel ?? null,
        pack: cell.packId === null ? null : (packOf.get(cell.packId) ?? null),
      }),
    );
    // The humps the table of items tells of: by results whose uncertainty is known.
    const humps = humpsOf(
      known.flatMap(({ value, standardUncertainty }) =>
        standardUncertainty === null ? [] : [value!],
      ),
    );
    const parting = partingOf(values, humps, ATTRIBUTES);
    const suspects = stood.map((cell): SuspectValue => ({
      cell: cell.number,
      value: valueOf.get(cell.id)!,
      isTyped: made.get(cell.id)?.isTyped ?? true,
      channel: made.get(cell.id)?.channel ?? null,
      connectionZ: connections.get(cell.id) ?? null,
    }));
    return {
      humps,
      parting,
      parts: await partItems(lab, lotId, parting, cells),
      outliers: lotOutliers(suspects),
      scores: normalScores(values.map(({ value }) => value)),
    };
  },
});
