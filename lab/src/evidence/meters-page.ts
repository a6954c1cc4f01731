import {
  type Agreement,
  type ChannelEffect,
  compareMeters,
  type GaugeStudyOrReason,
  gaugeStudy,
} from '@dusk-tally/core/evidence';
import type { MeterComparisonRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, LabError, procedure, question } from '../shared';
import { labDay } from '../lots';
import { chartsOf, isLike, jointRepeats, repeatsOf } from './repeats';
import { type ChannelView, listChannels } from './channels';

/** A channel with what repeats and control cells say of it. */
export interface ChannelState extends ChannelView {
  effect: ChannelEffect | null;
  runs: number;
  held: { reason: string; afterRunId: number } | null;
  chart: {
    centre: number;
    lower: number;
    upper: number;
    points: { runId: number; cell: string; at: Date; value: number; signal: string | null }[];
    looks: { upToRunId: number; note: string; person: string; at: Date }[];
  } | null;
}

export interface MetersView {
  channels: ChannelState[];
  /** Standard deviation of one result about the fit, as a share; null without a fit. */
  repeatability: number | null;
  fitted: { results: number; cells: number } | null;
  /** Why there is no fit. */
  reason: string | null;
  controls: { number: string; since: string; runs: number }[];
  /** Results per cell and channel, for cells that ran more than once. */
  repeats: { cell: string; isControl: boolean; counts: Record<number, number> }[];
  comparisons: (MeterComparisonRow & { person: string; pairs: Agreement[] })[];
}

/** Everything known of the lab’s channels and meters. */
export const metersView = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab, _input, actor): Promise<MetersView> => {
    const { store } = lab;
    const { meters } = store;
    const [joint, looks, effects, people, comparisons, controls] = await Promise.all([
      jointRepeats(lab),
      meters.looks.find({}, { order: [['id', 'ASC']] }),
      meters.effects.find({}),
      store.people.find({}, { columns: ['id', 'name'] }),
      meters.comparisons.find({}, { order: [['id', 'DESC']], limit: 50 }),
      store.cells.find({}, { columns: ['id', 'number', 'controlSince'] }),
    ]);
    const { repeats } = joint;
    const channels = await listChannels(lab, actor, {});
    const name = new Map(people.map((person) => [person.id, person.name]));
    const charts = chartsOf(repeats, looks);
    const effectOf = new Map(effects.map((row) => [row.channelId, row]));
    const { fit, reason } = joint.fit.channels;
    const counts = new Map<string, { isControl: boolean; counts: Record<number, number> }>();
    for (const row of repeats) {
      if (row.channelId === null) continue;
      const own = counts.get(row.cell) ?? { isControl: row.isControl === 1, counts: {} };
      own.counts[row.channelId] = (own.counts[row.channelId] ?? 0) + 1;
      counts.set(row.cell, own);
    }
    const runsOn = await Promise.all(
      channels.map((channel) => store.runs.count({ channelId: channel.id })),
    );
    return {
      channels: channels.map((channel, i): ChannelState => {
        const chart = charts.get(channel.id);
        const row = effectOf.get(channel.id);
        return {
          ...channel,
          runs: runsOn[i]!,
          effect: row?.effect ?? null,
          held:
            row?.heldAfterRunId === null || row?.heldAfterRunId === undefined
              ? null
              : { reason: row.heldReason ?? '', afterRunId: row.heldAfterRunId },
          chart: chart
            ? {
                centre: chart.chart.centre,
                lower: chart.chart.lower,
                upper: chart.chart.upper,
                points: chart.points.map((point, index) => ({
                  ...point,
                  value: chart.values[index]!,
                  signal:
                    chart.chart.signals.find((signal) => signal.index === index)?.text ?? null,
                })),
                looks: chart.looks.map(({ upToRunId, note, personId, at }) => ({
                  upToRunId,
                  note,
                  person: name.get(personId) ?? '',
                  at,
                })),
              }
            : null,
        };
      }),
      repeatability: fit?.repeatability ?? null,
      fitted: fit ? { results: fit.results, cells: fit.cells } : null,
      reason: repeats.some(({ channelId }) => channelId !== null)
        ? (reason ?? null)
        : 'No cell ran more than once on known channels yet.',
      controls: controls
        .filter((cell) => cell.controlSince !== null)
        .map((cell) => ({
          number: cell.number,
          since: cell.controlSince!,
          runs: repeats.filter((row) => row.cellId === cell.id).length,
        })),
      repeats: [...counts].map(([cell, rest]) => ({ cell, ...rest })),
      comparisons: comparisons.map((row) => ({
        ...row,
        person: name.get(row.personId) ?? '',
        pairs: compareMeters(row.readings),
      })),
    };
  },
});

/** Settles a chart out of control: someone looked, and says what was found. */
export const lookAtChannel = procedure({
  role: 'lead',
  input: z.object({
    channelId: z.int(),
    note: z.string().trim().min(3, 'Expected what was found.').max(400),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { store } = lab;
    const channel = found(
      await store.meters.channels.one({ id: input.channelId }, { transaction, forUpdate: true }),
      'That channel',
    );
    const newest = await store.runs.one(
      { channelId: channel.id },
      { transaction, order: [['id', 'DESC']], columns: ['id'] },
    );
    if (!newest) throw new LabError('invalid', 'Nothing ran on this channel yet.');
    await store.meters.looks.insert(
      {
        channelId: channel.id,
        upToRunId: newest.id,
        note: input.note,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    changed({ what: 'channelLooks', channelId: channel.id });
    await audit({
      act: 'looked at channel',
      subjectType: 'channel',
      subjectId: channel.id,
      after: { note: input.note, upToRunId: newest.id },
    });
  },
});

/** Keeps a cell to compare channels with, or gives it back. */
export const keepControlCell = procedure({
  role: 'lead',
  input: z.object({ number: z.string().max(20), keep: z.boolean() }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const cell = found(
      await lab.store.cells.one({ number: input.number }, { transaction, forUpdate: true }),
      `Cell ${input.number}`,
    );
    const controlSince = input.keep ? await labDay(lab, transaction) : null;
    if ((cell.controlSince !== null) === input.keep) return;
    await lab.store.cells.update({ controlSince }, { id: cell.id }, transaction);
    changed({ what: 'controlCells', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: input.keep ? 'kept as control cell' : 'gave control cell back',
      subjectType: 'cell',
      subjectId: cell.number,
    });
  },
});

/** Several meters in one circuit, read at one moment. */
export const addComparison = procedure({
  role: 'technician',
  input: z.object({
    title: z.string().trim().min(1, 'Expected what was compared.').max(120),
    unit: z.enum(['V', 'A', 'Ah', 'mΩ', '°C']),
    readings: z
      .array(
        z.object({
          meter: z.string().trim().min(1, 'Expected the meter’s name.').max(60),
          value: z.number('Expected a number.').finite(),
          expanded: z.number('Expected a number.').positive('Expected an accuracy above 0.'),
        }),
      )
      .min(2, 'Expected at least two meters.')
      .max(20)
      .refine((rows) => new Set(rows.map((row) => row.meter)).size === rows.length, {
        message: 'Expected each meter once.',
      }),
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    await lab.store.meters.comparisons.insert(
      { ...input, personId: actor.id, at: lab.now() },
      transaction,
    );
    await audit({
      act: 'compared meters',
      subjectType: 'lab',
      subjectId: input.title,
      after: input.readings,
    });
  },
});

/** A gauge study of chosen cells on chosen channels, from the repeats that are there. */
export const studyGauge = question({
  role: 'technician',
  input: z.object({
    cells: z.array(z.string().max(20)).max(200),
    channelIds: z.array(z.int()).max(200),
  }),
  run: async (lab, { cells, channelIds }, actor): Promise<GaugeStudyOrReason> => {
    const channels = await listChannels(lab, actor, {});
    const title = new Map(channels.map((channel) => [channel.id, channel.title]));
    const wanted = new Set(cells);
    const rows = (await repeatsOf(lab))
      .filter(isLike)
      .filter(
        (row) =>
          wanted.has(row.cell) && row.channelId !== null && channelIds.includes(row.channelId),
      );
    // A crossed study needs like counts: the newest of each place, as many as the poorest has.
    const places = new Map<string, typeof rows>();
    for (const row of rows) {
      const key = `${row.cell}/${row.channelId}`;
      places.set(key, [...(places.get(key) ?? []), row]);
    }
    const fewest = Math.min(...[...places.values()].map((own) => own.length));
    return gaugeStudy(
      [...places.values()].flatMap((own) =>
        own.slice(-fewest).map((row) => ({
          cell: row.cell,
          channel: title.get(row.channelId!) ?? String(row.channelId),
          value: row.likeAh,
        })),
      ),
    );
  },
});
